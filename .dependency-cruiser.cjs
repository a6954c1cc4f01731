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

module.exports = {
  forbidden: [
    ...stray,
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
      from: { pathNot: '^(store|lab/testing)/' },
      to: { path: 'node_modules/(sequelize|mariadb|umzug)' },
    },
    {
      name: 'no-circles',
      severity: 'error',
      from: { path: '^(core|store|bench|web)/' },
      to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } },
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
