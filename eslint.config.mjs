import tseslint from 'typescript-eslint';
import hooks from 'eslint-plugin-react-hooks';
import a11y from 'eslint-plugin-jsx-a11y';

const SQL =
  '/^\\s*(SELECT\\s[\\s\\S]*\\sFROM\\s|INSERT\\s+(OR\\s+\\w+\\s+)?INTO\\s|UPDATE\\s+\\w+\\s+SET\\s|DELETE\\s+FROM\\s|(CREATE|ALTER|DROP)\\s+TABLE\\s|PRAGMA\\s)/';
const message = 'SQL stands in src/data only.';
const noSql = [
  { selector: `Literal[value=${SQL}]`, message },
  { selector: `TemplateElement[value.raw=${SQL}]`, message },
  { selector: 'CallExpression[callee.property.name=/^(prepare|pragma|exec)$/][callee.object.name="db"]', message },
  {
    selector: 'CallExpression[callee.property.name=/^(prepare|pragma|exec)$/][callee.object.property.name="db"]',
    message,
  },
];

export default tseslint.config(
  { ignores: ['node_modules', '.next', 'dist', 'var', 'data', 'next-env.d.ts', 'test-results'] },
  ...tseslint.configs.recommended,
  {
    files: ['**/*.{ts,tsx}'],
    rules: {
      '@typescript-eslint/no-explicit-any': 'error',
      '@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }],
      '@typescript-eslint/consistent-type-imports': ['error', { fixStyle: 'inline-type-imports' }],
      eqeqeq: 'error',
    },
  },
  {
    files: ['src/ui/**/*.{ts,tsx}', 'src/app/**/*.tsx'],
    plugins: { 'react-hooks': hooks, 'jsx-a11y': a11y },
    rules: {
      'react-hooks/rules-of-hooks': 'error',
      'react-hooks/exhaustive-deps': 'error',
      ...a11y.flatConfigs.recommended.rules,
      'jsx-a11y/no-autofocus': 'off',
      'jsx-a11y/no-noninteractive-tabindex': 'off',
      'jsx-a11y/no-noninteractive-element-interactions': 'off',
      'jsx-a11y/click-events-have-key-events': 'off',
      'jsx-a11y/no-static-element-interactions': 'off',
      'jsx-a11y/label-has-associated-control': ['error', { assert: 'either', depth: 3 }],
    },
  },
  {
    files: ['src/**/*.tsx'],
    ignores: ['src/ui/kit/link.tsx'],
    rules: {
      'no-restricted-imports': ['error', { name: 'next/link', message: 'Links of the kit do not read pages ahead.' }],
    },
  },
  // SQL stands in the data modules, beside the function that asks; nobody else writes any.
  {
    files: ['src/**/*.{ts,tsx}', 'demo/**/*.ts'],
    ignores: ['src/data/**', '**/*.test.ts'],
    rules: { 'no-restricted-syntax': ['error', ...noSql] },
  },
  // The core is the job itself: no clock, no chance, no environment of its own.
  {
    files: ['src/core/**/*.ts'],
    ignores: ['**/*.test.ts'],
    rules: {
      'no-restricted-globals': [
        'error',
        'process',
        'window',
        'document',
        'fetch',
        'setTimeout',
        'setInterval',
        'crypto',
      ],
      'no-restricted-properties': [
        'error',
        { object: 'Date', property: 'now' },
        { object: 'Math', property: 'random' },
      ],
    },
  },
);
