import { mdiMinus, mdiPlus } from '@mdi/js'
import { createVuetify } from 'vuetify'
import { aliases, mdi } from 'vuetify/iconsets/mdi-svg'

const nonce = document.querySelector<HTMLMetaElement>('meta[name="csp-nonce"]')?.content

const daylight = {
  dark: false,
  colors: {
    background: '#e9eeec',
    surface: '#fbfcfb',
    primary: '#0d4f4b',
    secondary: '#5b6b66',
    warning: '#8a4b00',
    error: '#9b1c1c',
    success: '#1f5d36',
    'on-background': '#12201d',
    'on-surface': '#12201d',
  },
  variables: { 'border-opacity': 0.28, 'high-emphasis-opacity': 1, 'medium-emphasis-opacity': 0.85 },
}

const night = {
  dark: true,
  colors: {
    background: '#0e1716',
    surface: '#162220',
    primary: '#6fd0c2',
    secondary: '#a8b8b3',
    warning: '#ffb454',
    error: '#ff8f85',
    success: '#7fd39a',
    'on-background': '#eef4f2',
    'on-surface': '#eef4f2',
    'on-primary': '#06211e',
  },
  variables: { 'border-opacity': 0.34, 'high-emphasis-opacity': 1, 'medium-emphasis-opacity': 0.9 },
}

const preferred = window.matchMedia('(prefers-color-scheme: dark)').matches ? 'night' : 'daylight'

/** The label stands above the box: the library's single line leaves it where our styles put it. */
const field = { variant: 'filled', density: 'compact', singleLine: true } as const

export const vuetify = createVuetify({
  icons: { defaultSet: 'mdi', aliases: { ...aliases, expand: mdiPlus, collapse: mdiMinus }, sets: { mdi } },
  theme: {
    defaultTheme: localStorage.getItem('nephelon.theme') ?? preferred,
    themes: { daylight, night },
    cspNonce: nonce,
  },
  defaults: {
    VBtn: { variant: 'outlined', rounded: 'sm', ripple: false, class: 'act' },
    VDialog: { maxWidth: 640 },
    VTextField: field,
    VTextarea: field,
    VAutocomplete: field,
    VField: field,
    VInput: { density: 'compact' },
    VCheckbox: { density: 'compact', hideDetails: true, ripple: false },
    VTab: { ripple: false },
    VTabsWindowItem: { transition: false, reverseTransition: false },
    VAlert: { density: 'compact', variant: 'tonal' },
    VTooltip: { eager: false, openDelay: 400, maxWidth: 320 },
    VRadioGroup: { density: 'compact', ripple: false },
    VRadio: { ripple: false },
    VExpansionPanels: { static: true, elevation: 0, ripple: false },
  },
})
