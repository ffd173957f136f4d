/**
 * The house: which part may know which. Core knows nothing above it and only small pure packages; the server and the
 * pages know the core and not one another; stand-ins and the demo stand outside.
 */
const purePackages = ['zod', '@internationalized/date', 'fft[.]js', 'culori'];
const pure = `node_modules/(${purePackages.join('|')})/`;

/** @type {import('dependency-cruiser').IConfiguration} */
module.exports = {
  forbidden: [
    {
      name: 'no-circles',
      comment: 'Two files that need each other are one file, or hide a third.',
      severity: 'error',
      from: {},
      to: { circular: true }
    },
    {
      name: 'core-alone',
      comment: 'The core knows nothing of pages, servers or Node.',
      severity: 'error',
      from: { path: '^src/lib/core/', pathNot: '[.]test[.]ts$' },
      to: { pathNot: `^src/lib/core/|${pure}|^@types/` }
    },
    {
      name: 'core-tests-know-the-core',
      severity: 'error',
      from: { path: '^src/lib/core/.*[.]test[.]ts$' },
      to: { path: '^(src/lib/(server|ui|workers)|src/routes|standins|demo|e2e)/' }
    },
    {
      name: 'pages-know-no-server',
      severity: 'error',
      from: { path: '^src/lib/(ui|workers)/' },
      to: { path: '^src/lib/server/' }
    },
    {
      name: 'server-knows-no-pages',
      severity: 'error',
      from: { path: '^src/lib/server/' },
      to: { path: '^(src/lib/(ui|workers)|src/routes)/' }
    },
    {
      name: 'product-knows-no-surroundings',
      comment: 'Stand-ins, the demo and the measuring know the product, never the other way round.',
      severity: 'error',
      from: { path: '^src/', pathNot: '[.]test[.]ts$' },
      to: { path: '^(standins|demo|bench|e2e|scripts)/' }
    },
    {
      name: 'kit-knows-no-product',
      comment: 'The kit is in our dress and knows nothing of patients and pictures.',
      severity: 'error',
      from: { path: '^src/lib/ui/kit/' },
      to: { path: '^src/lib/', pathNot: '^src/lib/ui/kit/' }
    },
    {
      name: 'bits-in-the-kit-alone',
      severity: 'error',
      from: { path: '^src/', pathNot: '^src/lib/ui/kit/' },
      to: { path: 'node_modules/bits-ui/' }
    },
    {
      name: 'tools-are-pure',
      comment: 'A tool is a state machine: it knows the core and nothing of pages.',
      severity: 'error',
      from: { path: '^src/lib/ui/stage/tools/', pathNot: '[.]test[.]ts$' },
      to: { pathNot: '^src/lib/(ui/stage/tools|core)/' }
    },
    {
      name: 'packages-declared',
      severity: 'error',
      from: { path: '^(src|standins|demo|bench|e2e|scripts)/' },
      to: { dependencyTypes: ['npm-no-pkg', 'npm-unknown'] }
    }
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '[.]svelte-kit|/\\$types' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: '.dependency-cruiser.tsconfig.json' },
    enhancedResolveOptions: {
      exportsFields: ['exports'],
      conditionNames: ['svelte', 'import', 'require', 'node', 'default']
    }
  }
};
