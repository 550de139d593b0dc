import angular from 'angular-eslint';
import { defineConfig, globalIgnores } from 'eslint/config';
import tseslint from 'typescript-eslint';
import js from '@eslint/js';

/** Arrows between the parts point one way: core ← contract ← server, core ← contract ← web; nothing imports server or web. */
const arrows = {
  core: [
    '@oxbow/contract',
    '@oxbow/server',
    '@oxbow/web',
    '@oxbow/demo',
    'node:*',
    'fs',
    'path',
    '@angular/*',
    'express',
    'sequelize',
  ],
  contract: ['@oxbow/server', '@oxbow/web', '@oxbow/demo', 'node:*', '@angular/*', 'express', 'sequelize'],
  server: ['@oxbow/web', '@oxbow/demo', '@angular/*'],
  web: ['@oxbow/server', '@oxbow/demo', '@oxbow/core/testing', 'node:*', 'express', 'sequelize'],
};
const parts = Object.keys(arrows);

/** Within a part arrows point one way too: a folder knows only those named before it. */
const floors = {
  core: [
    'bounds',
    'content',
    'history',
    'compare',
    'past',
    'erasing',
    'writing',
    'kinds',
    'calculate',
    'formats',
  ],
  server: [
    ...[
      'trouble',
      'threads',
      'store',
      'access',
      'histories',
      'formats',
      'compare',
      'ordering',
      'versions',
      'past',
    ],
    ...[
      'documents',
      'going-back',
      'filing',
      'archive',
      'shelf',
      'mail',
      'membership',
      'sharing',
      'reading',
      'erasing',
      'live',
      'jobs',
      'http',
      'backup',
    ],
  ],
  web: [
    ...['api', 'worker', 'look', 'bin', 'filing', 'live', 'session', 'acting', 'documents', 'members'],
    ...[
      'moving-in',
      'account',
      'arrivals',
      'document',
      'sharing',
      'keeping',
      'tideline',
      'carry',
      'holding',
      'ledger',
      'log',
    ],
    ...[
      'no-access',
      'guide',
      'notices',
      'reading',
      'assemble',
      'drafts',
      'moment',
      'past',
      'writing',
      'kinds',
      'desk',
      'shelf',
    ],
  ],
};

/** What a folder of a part must not import. */
function restricted(part, above = []) {
  const message = `${part} must not know that; see docs/architecture.md.`;
  const others = parts.filter((other) => other !== part).map((other) => `**/../${other}/**`);
  const group = [...arrows[part], ...others];
  const upward = above.flatMap((folder) => [`../${folder}/**`, `../../${folder}/**`]);
  return [
    'error',
    { patterns: [{ group, message }, ...(upward.length > 0 ? [{ group: upward, message }] : [])] },
  ];
}

/** Attributes of templates that nobody reads or hears. */
const UNSPOKEN = [
  'accept',
  'align',
  'appearance',
  'cdkDragLockAxis',
  'cdkDropListOrientation',
  'aria-describedby',
  'aria-labelledby',
  'aria-live',
  'aria-orientation',
  'content',
  'd',
  'data-handle',
  'inputmode',
  'matButton',
  'matColumnDef',
  'matSortActive',
  'matSortDirection',
  'matTooltipPosition',
  'mode',
  'side',
  'noun',
  'preserveAspectRatio',
  'rel',
  'subscriptSizing',
  'text-anchor',
];

export default defineConfig(
  globalIgnores([
    '**/dist/**',
    '**/node_modules/**',
    '**/.angular/**',
    'data/**',
    '**/test-results/**',
    '**/playwright-report/**',
  ]),
  {
    files: ['**/*.ts'],
    extends: [js.configs.recommended, ...tseslint.configs.strict],
    rules: {
      '@typescript-eslint/no-non-null-assertion': 'error',
      '@typescript-eslint/consistent-type-imports': 'off',
      '@typescript-eslint/no-extraneous-class': 'off',
      '@typescript-eslint/no-empty-object-type': ['error', { allowInterfaces: 'with-single-extends' }],
      '@typescript-eslint/no-invalid-void-type': 'off',
      '@typescript-eslint/unified-signatures': 'off',
    },
  },
  ...parts.map((part) => ({
    files: [`${part}/src/**/*.ts`],
    rules: { 'no-restricted-imports': restricted(part) },
  })),
  ...Object.entries(floors).flatMap(([part, folders]) =>
    folders.map((folder, i) => ({
      files: [`${part}/src/${part === 'web' ? 'app/' : ''}${folder}/**/*.ts`],
      ignores: ['**/*.spec.ts', '**/testing.ts', '**/testing/**'],
      rules: { 'no-restricted-imports': restricted(part, [...folders.slice(i + 1), 'testing']) },
    })),
  ),
  {
    files: ['core/src/**/*.ts'],
    ignores: ['**/*.spec.ts', '**/testing/**'],
    rules: {
      'no-restricted-globals': ['error', 'window', 'document', 'Date', 'process', 'fetch', 'crypto'],
      'no-restricted-properties': [
        'error',
        { object: 'Math', property: 'random', message: 'core has no randomness' },
      ],
    },
  },
  {
    files: ['core/src/{content,history,compare,past,erasing}/**/*.ts'],
    ignores: ['**/*.spec.ts'],
    rules: {
      'no-restricted-syntax': [
        'error',
        ...[
          'BinaryExpression[left.property.name="name"][left.object.property.name="type"][right.type="Literal"]',
          'MemberExpression[object.property.name="nodes"][property.type="Literal"]',
          'MemberExpression[object.property.name="nodes"][computed=false]:matches([object.object.name="schema"], [object.object.property.name="schema"])',
          'CallExpression[callee.property.name="node"][arguments.0.raw=/^[^0-9]/]',
        ].map((selector) => ({
          selector,
          message: 'what does not know the kind of a document goes by the traits of its nodes: docs/kinds.md',
        })),
      ],
    },
  },
  {
    files: ['web/src/**/*.ts'],
    extends: [...angular.configs.tsRecommended],
    processor: angular.processInlineTemplates,
    rules: {
      '@angular-eslint/component-selector': ['error', { type: 'element', prefix: 'ox', style: 'kebab-case' }],
    },
  },
  {
    files: ['web/src/**/*.html'],
    ignores: ['web/src/index.html'],
    extends: [...angular.configs.templateRecommended, ...angular.configs.templateAccessibility],
    rules: { '@angular-eslint/template/i18n': ['error', { checkId: false, ignoreAttributes: UNSPOKEN }] },
  },
);
