import js from '@eslint/js';
import a11y from 'eslint-plugin-jsx-a11y';
import hooks from 'eslint-plugin-react-hooks';
import ts from 'typescript-eslint';

export default ts.config(
  { ignores: ['src/api/schema.gen.ts', 'src/api/names.gen.ts'] },
  js.configs.recommended,
  ...ts.configs.strict,
  a11y.flatConfigs.recommended,
  hooks.configs.flat.recommended,
  {
    // doubt is worked out in the core and arrives as half a width
    rules: {
      'no-restricted-syntax': [
        'error',
        {
          selector: "BinaryExpression[operator=/^[*/+-]$/] MemberExpression[property.name=/(^|_)sd(_|$)/]",
          message: 'No arithmetic on standard deviations here: the core gives the half width.',
        },
        {
          selector: "BinaryExpression[operator=/^[*/]$/] Literal[value=1.96]",
          message: 'No arithmetic on standard deviations here: the core gives the half width.',
        },
      ],
    },
  },
  { rules: { 'no-restricted-imports': ['error', { patterns: [{ regex: '^@mui/material$', message: 'Import components by path.' }] }] } },
);
