import js from '@eslint/js'
import { createNodeResolver, importX } from 'eslint-plugin-import-x'
import hooks from 'eslint-plugin-react-hooks'
import tseslint from 'typescript-eslint'

/** Imports point one way: screens → frame → parts → api. */
const above = (target, ...from) => from.map((name) => ({ target: `src/${target}`, from: `src/${name}` }))

export default tseslint.config(
  { ignores: ['dist', 'src/api/schema.d.ts'] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  hooks.configs.flat.recommended,
  importX.flatConfigs.typescript,
  {
    plugins: { 'import-x': importX },
    settings: { 'import-x/resolver-next': [createNodeResolver({ extensions: ['.ts', '.tsx', '.js'] })] },
    rules: {
      'no-restricted-syntax': ['error', { selector: 'ExportDefaultDeclaration', message: 'Name what you export.' }],
      'max-lines': ['error', 260],
      'import-x/no-cycle': 'error',
      'import-x/no-restricted-paths': [
        'error',
        {
          zones: [
            ...above('api', 'parts', 'frame', 'screens'),
            ...above('parts', 'frame', 'screens'),
            ...above('frame', 'screens'),
          ],
        },
      ],
    },
  },
  { files: ['*.config.*'], rules: { 'no-restricted-syntax': 'off' } },
)
