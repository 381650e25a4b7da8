import js from '@eslint/js'
import vue from 'eslint-plugin-vue'
import globals from 'globals'
import ts from 'typescript-eslint'

/** The layers of the interface, lowest first: each may import those before it and itself. */
const layers = ['api', 'session', 'record', 'fields', 'drawing', 'charts', 'shell', 'features']
const upward = layers.map((layer, n) => ({
  files: [`src/${layer}/**`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          {
            regex: `^(\\.\\./)+(${[...layers.slice(n + 1), 'App', 'main'].join('|')})`,
            message: `${layer} knows no layer above it: ${layers.join(' < ')}.`,
          },
        ],
      },
    ],
  },
}))

export default ts.config(
  { ignores: ['dist', 'src/**/*.gen.*'] },
  js.configs.recommended,
  ...ts.configs.strict,
  ...vue.configs['flat/recommended'],
  { files: ['public/*.js'], languageOptions: { globals: globals.serviceworker } },
  {
    files: ['**/*.vue', '**/*.ts'],
    languageOptions: { globals: globals.browser, parserOptions: { parser: ts.parser } },
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/html-self-closing': 'off',
      'vue/html-indent': 'off',
      'vue/multiline-html-element-content-newline': 'off',
      'vue/html-closing-bracket-newline': 'off',
    },
  },
  ...upward,
)
