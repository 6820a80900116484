import js from '@eslint/js';
import importX from 'eslint-plugin-import-x';
import { createTypeScriptImportResolver } from 'eslint-import-resolver-typescript';
import svelte from 'eslint-plugin-svelte';
import globals from 'globals';
import ts from 'typescript-eslint';
import svelteConfig from './svelte.config.js';

/** Folders of the core in the order of the stages: each imports only those before it. */
const STAGES = [
	'elementary',
	'units',
	'geometry',
	'mass',
	'mesh',
	'settingout',
	'tiling',
	'readings',
	'kit',
	'placement',
	'schedule',
	'project',
	'drawing',
	'formats',
	'view'
];
/** Functions that engines are free to round in their own way, so that one document would not give the same bits everywhere. */
const INEXACT = [
	'sin',
	'cos',
	'tan',
	'asin',
	'acos',
	'atan',
	'atan2',
	'sinh',
	'cosh',
	'tanh',
	'asinh',
	'acosh',
	'atanh',
	'exp',
	'expm1',
	'log',
	'log1p',
	'log2',
	'log10',
	'pow',
	'cbrt',
	'hypot'
];
const exactly = 'It may be rounded otherwise in another engine; take it from core/elementary.';
const exportNames = { selector: 'ExportAllDeclaration', message: 'Export a named list.' };
/** What the core does without, so that every engine gives the same bits. */
const coreSyntax = [
	exportNames,
	{
		selector: "BinaryExpression[operator='**'], AssignmentExpression[operator='**=']",
		message: `${exactly} Right would be square, wholePower or pow.`
	},
	{ selector: "VariableDeclarator[init.name='Math']", message: exactly }
];
const toleranceElsewhere = {
	selector: 'Literal[raw=/^[0-9.]+e-[0-9]+$/]',
	message: 'A tolerance stands in tolerances.ts, with its unit and its reason.'
};
const core = (folder) => `./src/core/${folder}`;

/** Imports run downwards only; each zone names what a folder must not reach for. */
const zones = [
	...STAGES.slice(0, -1).map((folder, k) => ({
		target: core(folder),
		from: STAGES.slice(k + 1).map(core),
		message: `${folder} stands before this stage and must not reach for it.`
	})),
	{ target: './src/core', from: ['./src/lib', './src/routes', './src/cli'] },
	{ target: './src/cli', from: ['./src/lib', './src/routes'] },
	{ target: './src/lib', from: ['./src/routes', './src/cli'] },
	{ target: './src/lib/server', from: ['./src/lib/ui', './src/lib/editor', './src/lib/stage', './src/lib/worker'] },
	{ target: './src/lib/worker', from: ['./src/lib/ui', './src/lib/editor', './src/lib/stage', './src/lib/server'] },
	{ target: './src/lib/stage', from: ['./src/lib/ui', './src/lib/editor', './src/lib/server'] },
	{ target: './src/lib/editor', from: ['./src/lib/ui', './src/lib/server'] },
	{ target: './src/lib/ui', from: ['./src/lib/server'] }
];

export default ts.config(
	{
		ignores: [
			'build/',
			'dist/',
			'.svelte-kit/',
			'.cache/',
			'.data/',
			'node_modules/',
			'static/',
			'tests/unit/lint/circle/'
		]
	},
	js.configs.recommended,
	...ts.configs.strict,
	...svelte.configs.recommended,
	{
		plugins: { 'import-x': importX },
		settings: {
			// Without its own parser the rules on imports read no TypeScript, and find no circle.
			'import-x/parsers': { '@typescript-eslint/parser': ['.ts'] },
			'import-x/extensions': ['.ts', '.svelte', '.js', '.mjs'],
			// What components import is read where they are linted themselves.
			'import-x/ignore': ['\\.svelte$'],
			'import-x/resolver-next': [createTypeScriptImportResolver({ project: './tsconfig.json' })]
		},
		rules: {
			'import-x/no-restricted-paths': ['error', { zones }],
			'import-x/no-cycle': ['error', { ignoreExternal: true }],
			'no-undef': 'off',
			'no-restricted-syntax': ['error', exportNames],
			// Index access is checked by noUncheckedIndexedAccess; in loops over typed arrays `!` says so.
			'@typescript-eslint/no-non-null-assertion': 'off',
			'@typescript-eslint/no-unused-vars': ['error', { argsIgnorePattern: '^_', varsIgnorePattern: '^_' }]
		}
	},
	{
		files: ['src/core/**'],
		rules: {
			'no-restricted-properties': [
				'error',
				...INEXACT.map((property) => ({ object: 'Math', property, message: exactly }))
			],
			'no-restricted-syntax': ['error', ...coreSyntax, toleranceElsewhere]
		}
	},
	{
		files: ['src/core/tolerances.ts', 'src/core/elementary/**'],
		rules: { 'no-restricted-syntax': ['error', ...coreSyntax] }
	},
	{
		files: ['**/*.svelte', '**/*.svelte.ts'],
		languageOptions: {
			globals: globals.browser,
			parserOptions: { parser: ts.parser, extraFileExtensions: ['.svelte'], svelteConfig }
		},
		rules: {
			// Addresses are plain: the application is served from the root.
			'svelte/no-navigation-without-resolve': 'off'
		}
	},
	{ files: ['scripts/**', '*.js'], languageOptions: { globals: globals.node } },
	{
		files: ['tests/**'],
		rules: { '@typescript-eslint/no-unused-expressions': 'off' }
	}
);
