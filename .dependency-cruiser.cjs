/** The arrows of the house: app -> server -> core; app -> core; cli -> core and server; core imports none of them. */
const forbid = (name, from, to, comment) => ({ name, severity: 'error', comment, from, to });
module.exports = {
  forbidden: [
    forbid(
      'core-stands-alone',
      { path: '^core/', pathNot: '\\.test\\.ts$|(^|/)testing/' },
      { path: '^(app|server|between|words|screening|cli|demo|scripts|e2e|bench)/' },
      'The core knows nothing of the rooms around it.',
    ),
    forbid(
      'rules-stand-alone',
      { path: '^core/rules/', pathNot: '\\.test\\.ts$' },
      { path: '^core/(?!rules/)' },
      'The rule book depends on nothing.',
    ),
    forbid(
      'money-and-cards-know-no-lane',
      { path: '^core/(money|cards|tax|goods)/', pathNot: '\\.test\\.ts$' },
      { path: '^core/(?!rules/|money/|cards/|tax/|goods/|issues|fault)' },
      'What a lane is made of knows nothing of lanes.',
    ),
    forbid(
      'lane-stands-on-rules',
      { path: '^core/lane/', pathNot: '\\.test\\.ts$' },
      { path: '^core/(?!lane/|rules/|money/|cards/|tax/|goods/|issues|fault|testing/)' },
      'A lane knows the rules and what it is made of; lists, launches and workspaces know the lane.',
    ),
    forbid(
      'core-has-no-machine',
      { path: '^core/', pathNot: '\\.test\\.ts$|(^|/)testing/' },
      { dependencyTypes: ['core'] },
      'The core uses nothing of Node.',
    ),
    forbid(
      'core-imports-zod-only',
      { path: '^core/', pathNot: '\\.test\\.ts$|(^|/)testing/' },
      { dependencyTypes: ['npm', 'npm-dev'], pathNot: 'node_modules/zod/' },
      'Of packages the core imports zod alone.',
    ),
    forbid(
      'server-has-no-face',
      { path: '^server/' },
      { path: '^(app|cli|e2e|bench)/' },
      'The server knows nothing of screens.',
    ),
    forbid(
      'server-speaks-in-codes',
      { path: '^(server/(?!web/)|screening/|between/)', pathNot: '\\.test\\.ts$|(^|/)testing/' },
      { path: '^words/' },
      'What is wrong leaves the server as a code; faces put it into words.',
    ),
    forbid(
      'words-know-the-core-alone',
      { path: '^words/', pathNot: '\\.test\\.ts$' },
      { path: '^(app|server|between|screening|cli|demo|scripts|e2e|bench)/' },
      'The words of faults depend on their codes.',
    ),
    forbid(
      'server-knows-no-framework',
      { path: '^server/(?!web/)' },
      { path: 'node_modules/(react-router|@react-router|express|helmet|sirv|compression)/' },
      'Use cases return values or refuse; only the web server knows how that is told.',
    ),
    forbid(
      'screens-ask-routes',
      { path: '^app/(features|ui|theme|locales)/' },
      { path: '^server/' },
      'Only routes call the server; features get data.',
    ),
    forbid(
      'screening-owns-nothing',
      { path: '^screening/', pathNot: '\\.test\\.ts$' },
      { path: '^(app|server|cli|demo|scripts|e2e|bench)/' },
      'The screening process knows the core and what is said between processes; no database, no server.',
    ),
    forbid(
      'nothing-inside-the-screening',
      { path: '^(server|app|core|between)/', pathNot: '\\.test\\.ts$' },
      { path: '^screening/' },
      'The screening process is spoken to over HTTP alone.',
    ),
    forbid(
      'between-stands-on-the-core',
      { path: '^between/', pathNot: '\\.test\\.ts$' },
      { path: '^(app|server|screening|cli|demo|scripts|e2e|bench)/' },
      'What is said between processes depends on none of them.',
    ),
    forbid(
      'simulator-stands-alone',
      { path: '^simulator/' },
      { path: '^(app|core|server|cli|demo|scripts|e2e|bench)/' },
      'The stand-in for outside services knows nothing of the house.',
    ),
    forbid(
      'nothing-inside-the-simulator',
      { pathNot: '^simulator/' },
      { path: '^simulator/' },
      'The stand-in is spoken to over HTTP alone.',
    ),
    forbid(
      'cli-has-no-face',
      { path: '^cli/' },
      { path: '^(app|e2e|bench)/' },
      'The command line knows nothing of screens.',
    ),
    forbid(
      'app-not-cli',
      { path: '^app/', pathNot: '\\.test\\.tsx?$' },
      { path: '^(cli|e2e|bench|scripts)/' },
      'Screens import neither the command line nor tests.',
    ),
    forbid(
      'demo-is-data',
      { path: '^demo/' },
      { path: '^(app|server|cli|e2e|bench)/' },
      'The demo is data for the core types.',
    ),
    forbid(
      'tests-are-imported-by-tests',
      { pathNot: '\\.(test|spec)\\.tsx?$|^e2e/|^bench/|(^|/)testing/' },
      { path: '\\.(test|spec)\\.tsx?$|(^|/)testing/|^e2e/|^bench/' },
      'Nothing that ships imports test code.',
    ),
    forbid(
      'no-circles',
      {},
      { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
      'No circular imports.',
    ),
    forbid(
      'no-orphan-packages',
      {},
      { couldNotResolve: true, pathNot: '\\+types/|^virtual:|\\?url$' },
      'Every import resolves.',
    ),
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(^|/)(build|\\.react-router)/' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: {
      extensions: ['.ts', '.tsx', '.mjs', '.js', '.cjs'],
      exportsFields: ['exports'],
      conditionNames: ['import', 'node', 'default', 'types'],
    },
  },
};
