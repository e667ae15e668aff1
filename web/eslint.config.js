import vue from 'eslint-plugin-vue'
import ts from 'typescript-eslint'

/** The floors of src, from the top: a folder uses those below it, and none beside it. */
const FLOORS = [['desk', 'sheet'], ['review', 'share', 'deliveries'], ['delivery'], ['proof'], ['stage'], ['shelf'], ['recordings'], ['document'], ['player'], ['account', 'notices'], ['commands'], ['shared'], ['api']]
const above = (folder) => FLOORS.slice(0, FLOORS.findIndex((floor) => floor.includes(folder)) + 1).flat().filter((each) => each !== folder)
const floors = FLOORS.flat().map((folder) => ({
  files: [`src/${folder}/**`],
  rules: {
    'no-restricted-imports': ['error', {
      patterns: [
        ...above(folder).map((each) => ({ group: [`@/${each}/*`], message: `${folder} stands below ${each}, or beside it` })),
        { regex: '^@/[^/]+$', message: 'the application stands above all folders' },
        { regex: '^(\\.\\./)+(?:' + FLOORS.flat().join('|') + ')/', message: 'another folder is named from @' },
      ],
    }],
  },
}))

export default ts.config(
  { ignores: ['dist', 'src/api/schema.ts'] },
  ...ts.configs.recommended,
  ...vue.configs['flat/recommended'],
  { files: ['**/*.vue'], languageOptions: { parserOptions: { parser: ts.parser } } },
  {
    rules: {
      'vue/max-attributes-per-line': 'off',
      'vue/singleline-html-element-content-newline': 'off',
      'vue/multiline-html-element-content-newline': 'off',
      'vue/html-self-closing': 'off',
      'vue/html-indent': 'off',
      'vue/html-closing-bracket-newline': 'off',
      'vue/multi-word-component-names': 'off',
      'no-undef': 'off',
    },
  },
  ...floors,
)
