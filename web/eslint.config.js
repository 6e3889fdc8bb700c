import js from '@eslint/js'
import prettier from 'eslint-config-prettier'
import vue from 'eslint-plugin-vue'
import accessibility from 'eslint-plugin-vuejs-accessibility'
import { defineConfig, globalIgnores } from 'eslint/config'
import ts from 'typescript-eslint'

export default defineConfig(
  globalIgnores(['dist', 'src/generated', 'src/core/contract.ts', '**/*.d.ts']),
  js.configs.recommended,
  ts.configs.recommended,
  vue.configs['flat/recommended'],
  accessibility.configs['flat/recommended'],
  prettier,
  {
    files: ['src/**/*.{ts,vue}'],
    languageOptions: { parserOptions: { parser: ts.parser } },
    rules: {
      'no-undef': 'off', // the types say it
      'max-len': ['error', { code: 140, ignoreStrings: true, ignoreTemplateLiterals: true, ignoreRegExpLiterals: true, ignoreUrls: true }],
      'vuejs-accessibility/label-has-for': [
        'error',
        {
          controlComponents: ['ValueField', 'NInput', 'NInputNumber', 'NSelect', 'NSwitch', 'NCheckbox'],
          required: { some: ['nesting', 'id'] },
        },
      ],
      'vuejs-accessibility/heading-has-content': ['error', { accessibleChildren: ['EditableName'] }],
      // A dialog or search that was asked for takes the keys at once.
      'vuejs-accessibility/no-autofocus': 'off',
      // Trees, lists and the viewport take the keys as a whole, and the pointer in each of their parts.
      'vuejs-accessibility/no-static-element-interactions': 'off',
      'vuejs-accessibility/click-events-have-key-events': 'off',
      'vuejs-accessibility/interactive-supports-focus': 'off',
      '@typescript-eslint/no-unused-vars': ['error', { ignoreRestSiblings: true, varsIgnorePattern: '^_' }],
    },
  },
)
