import js from '@eslint/js'
import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'

const room = (folder, closed) => ({
  files: [`src/${folder}/**`],
  rules: {
    'no-restricted-imports': [
      'error',
      {
        patterns: [
          { group: closed.map((other) => `**/${other}/**`), message: `src/${folder} may not import from there.` },
        ],
      },
    ],
  },
})

export default ts.config(
  { ignores: ['dist', 'src/api/schema.d.ts'] },
  js.configs.recommended,
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  {
    files: ['**/*.vue', '**/*.ts'],
    languageOptions: { parserOptions: { parser: ts.parser } },
    // Undefined names are the type checker's business.
    rules: { 'no-undef': 'off', 'vue/multi-word-component-names': 'off', 'vue/require-default-prop': 'off' },
  },
  // What may import what: the store of a return is drawn by the ledger, both are used by the bar above and by the places.
  room('shared', ['return', 'ledger', 'bar', 'places']),
  room('return', ['ledger', 'bar', 'places']),
  room('ledger', ['bar', 'places']),
  room('bar', ['ledger', 'places']),
  prettier,
)
