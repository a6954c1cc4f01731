/** Rooms know only those to their right: web → lab → store → core, bench → core. */
const rooms = {
  core: [],
  store: ['core'],
  lab: ['store', 'core'],
  bench: ['core'],
  web: ['lab', 'core'],
};

const stray = Object.entries(rooms).map(([room, known]) => ({
  name: `${room}-knows-only-its-right`,
  severity: 'error',
  from: { path: `^${room}/`, pathNot: '/(tests|testing)/' },
  to: {
    path: '^(core|store|lab|bench|web|e2e|scripts)/',
    pathNot: `^(${[room, ...known].join('|')})/`,
  },
}));

/** A folder exports through its index; another folder of the same room, or another room, goes no deeper. */
const inner = {
  name: 'enter-core-by-index',
  severity: 'error',
  from: { path: '^(store|lab|bench|web)/', pathNot: '/(tests|testing)/' },
  to: { path: '^core/src/[^/]+/.+', pathNot: '^core/src/[^/]+/index\\.ts$' },
};

/** Floors of the lab, lowest first; stages on one floor do not know each other. */
const floors = [
  ['inputs'],
  ['shared'],
  ['compute'],
  ['lots'],
  ['derived'],
  ['arrivals', 'bench', 'evidence', 'resting', 'people'],
  ['verdicts', 'gathering'],
  ['suppliers', 'stock', 'money'],
  ['reports', 'records'],
  ['disputes'],
  ['today', 'api'],
];
const labFloors = floors.flatMap((stages, floor) =>
  stages.map((stage) => {
    const below = floors.slice(0, floor).flat();
    return {
      name: `lab-${stage}-knows-only-what-lies-below`,
      severity: 'error',
      from: { path: `^lab/src/${stage}/` },
      to: { path: '^lab/src/[^/]+/', pathNot: `^lab/src/(${[stage, ...below].join('|')})/` },
    };
  }),
);

/** Floors of the core; a stage knows the common ground below it, and verdicts what other stages found. */
const grounds = [
  ['units'],
  ['statistics'],
  ['chemistry'],
  ['simulator'],
  ['arrivals', 'bench', 'evidence', 'resting', 'money', 'suppliers'],
  ['verdicts'],
  ['stock', 'reports'],
];
const coreFloors = grounds.flatMap((stages, floor) =>
  stages.map((stage) => ({
    name: `core-${stage}-knows-only-what-lies-below`,
    severity: 'error',
    from: { path: `^core/src/${stage}/` },
    to: {
      path: '^core/src/[^/]+/',
      pathNot: `^core/src/(${[stage, ...grounds.slice(0, floor).flat()].join('|')})/`,
    },
  })),
);

/** What acts take is told to the browser too: no server code behind it. */
const inputsArePlain = {
  name: 'inputs-of-acts-are-free-of-server-code',
  severity: 'error',
  from: { path: '^lab/src/inputs/' },
  to: { pathNot: ['^lab/src/inputs/', '^core/', 'node_modules/zod/'] },
};

/** A stage of the lab is entered by its index, but for what puts the whole lab together. */
const labByIndex = {
  name: 'enter-lab-stages-by-index',
  severity: 'error',
  from: { path: '^lab/src/([^/]+)/' },
  to: { path: '^lab/src/[^/]+/.+', pathNot: ['^lab/src/$1/', '^lab/src/[^/]+/index\\.ts$'] },
};

/** Floors of the store; a stage knows the common ground, people and lots. */
const shelves = [
  ['base'],
  ['people', 'lots'],
  ['arrivals', 'bench', 'evidence', 'resting', 'verdicts', 'stock', 'reports', 'disputes'],
];
const storeFloors = shelves.flatMap((stages, floor) =>
  stages.map((stage) => ({
    name: `store-${stage}-knows-only-what-lies-below`,
    severity: 'error',
    from: { path: `^store/src/${stage}/` },
    to: {
      path: '^store/src/',
      pathNot: `^store/src/(${[stage, ...shelves.slice(0, floor).flat()].join('|')})/`,
    },
  })),
);
const storeByIndex = {
  name: 'enter-store-stages-by-index',
  severity: 'error',
  from: { path: '^store/src/([^/]+)/' },
  to: { path: '^store/src/[^/]+/.+', pathNot: ['^store/src/$1/', '^store/src/[^/]+/index\\.ts$'] },
};

/** Features of the interface do not know each other’s insides; the kit knows no feature. */
const features = [
  {
    name: 'features-do-not-know-each-other',
    severity: 'error',
    from: { path: '^web/features/([^/]+)/' },
    to: { path: '^web/features/', pathNot: '^web/features/$1/' },
  },
  {
    name: 'the-kit-knows-no-feature',
    severity: 'error',
    from: { path: '^web/(kit|lib)/' },
    to: { path: '^web/(features|app)/' },
  },
];

module.exports = {
  forbidden: [
    ...stray,
    ...labFloors,
    ...coreFloors,
    ...storeFloors,
    storeByIndex,
    ...features,
    labByIndex,
    inputsArePlain,
    inner,
    {
      name: 'core-is-pure',
      severity: 'error',
      from: { path: '^core/src/' },
      to: { dependencyTypes: ['core'] },
    },
    {
      name: 'core-without-interface-or-database',
      severity: 'error',
      from: { path: '^core/src/' },
      to: { path: 'node_modules/(react|next|sequelize|mariadb)' },
    },
    {
      name: 'only-store-knows-sequelize',
      severity: 'error',
      // A backup takes the place of a database without the app.
      from: { pathNot: '^(store/|lab/testing/|scripts/lib/swap-databases\\.mjs)' },
      to: { path: 'node_modules/(sequelize|mariadb|umzug)' },
    },
    {
      name: 'no-circles',
      severity: 'error',
      from: { path: '^(core|store|lab|bench|web|scripts|e2e)/' },
      to: { circular: true },
    },
  ],
  options: {
    tsConfig: { fileName: 'tsconfig.rooms.json' },
    tsPreCompilationDeps: true,
    doNotFollow: { path: 'node_modules' },
    exclude: { path: '(\\.next|/dist/)' },
    enhancedResolveOptions: { exportsFields: ['exports'], conditionNames: ['import', 'default'] },
  },
};
