import { defineConfigWithVueTs, vueTsConfigs } from '@vue/eslint-config-typescript'
import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'

export default defineConfigWithVueTs(
  { name: 'files', files: ['**/*.{ts,vue}'] },
  { name: 'left out', ignores: ['dist/**', 'src/core/wasm_exec.js', 'src/api/*.d.ts', 'eslint.config.js'] },
  vue.configs['flat/recommended'],
  vueTsConfigs.strictTypeChecked,
  {
    rules: {
      '@typescript-eslint/restrict-template-expressions': ['error', { allowNumber: true }],
      '@typescript-eslint/no-confusing-void-expression': ['error', { ignoreArrowShorthand: true }],
      // watchEffect and intervals take async functions, whose problems are answers here, not throws.
      '@typescript-eslint/no-misused-promises': ['error', { checksVoidReturn: { arguments: false } }],
      // It does not see that a closure may change a variable while something is awaited.
      '@typescript-eslint/no-unnecessary-condition': 'off',
      'vue/multi-word-component-names': 'off',
      // What is not imported is left out of the page without a word.
      'vue/no-undef-components': ['error', { ignorePatterns: ['RouterLink', 'RouterView'] }],
      'vue/no-undef-properties': 'error',
      'vue/no-restricted-syntax': [
        'error',
        {
          selector:
            'VAttribute[directive=true][key.argument.name=/^(min|max|least|most)$/] Literal[raw=/[1-9]/]',
          message: 'Take bounds from @/api/bounds: the contract and the form of a design have them.',
        },
      ],
    },
  },
  prettier,
)
