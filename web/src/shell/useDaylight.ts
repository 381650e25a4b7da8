import { useTheme } from 'vuetify'

/** Light or dark colours, as chosen on this device. */
export function useDaylight(): { turn: () => void } {
  const theme = useTheme()
  function turn(): void {
    const next = theme.global.current.value.dark ? 'daylight' : 'night'
    theme.change(next)
    localStorage.setItem('nephelon.theme', next)
  }
  return { turn }
}
