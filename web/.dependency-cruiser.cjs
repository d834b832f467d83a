/** The rooms of the front end, from the ground up; each imports only from those below it. docs/architecture.md has the map. */
const ROOMS = [
  '^src/api/[a-z]+[.]gen[.]ts$', // generated: types of the API, names of the trade
  '^src/theme/',
  '^src/units/',
  '^src/language/', // messages in the units on show, times, names
  '^src/api/', // one client, its queries
  '^src/offline/[a-z]+[.]ts$', // the kit, the core in a worker, sending
  '^src/figures/', // pure drawings
  '^src/clocks/',
  '^src/controls/',
  '^src/offline/', // said on every page, and the choice between two stories
  '^src/bench/', // the frame of a job; it is given the stages
  '^src/stages/(?!JobPage)',
  '^src/stages/JobPage',
  '^src/between/', // checks between services, the plan before the frost
  '^src/(board|machines|readings|instruments|products|shelf|rules|people|practice|start)/', // places of the menu
  '^src/(App|main)[.]tsx$',
  '^src/sw[.]ts$', // the service worker: the page without a network, and sending with no page open
];
const TESTS = '[.]test[.]tsx?$|^src/testing[.]tsx$';

const upwards = ROOMS.slice(0, -1).map((room, i) => ({
  name: `nothing-above-${i}`,
  comment: `What stands in ${room} imports only from below.`,
  severity: 'error',
  from: { path: room, pathNot: [TESTS, ...ROOMS.slice(0, i)].join('|') },
  // a room lower down may match a wider pattern higher up: it is below all the same
  to: { path: ROOMS.slice(i + 1).join('|'), pathNot: ROOMS.slice(0, i + 1).join('|') },
}));

module.exports = {
  forbidden: [
    { name: 'no-circles', severity: 'error', from: {}, to: { circular: true } },
    { name: 'no-orphans', severity: 'error', from: { orphan: true, pathNot: `${TESTS}|^src/(main[.]tsx|sw[.]ts)$` }, to: {} },
    ...upwards,
    {
      name: 'figures-take-props',
      comment: 'A figure is drawn from its props: no client, no queries, no context.',
      severity: 'error',
      from: { path: '^src/figures/', pathNot: TESTS },
      to: { path: '^src/(api|clocks)/|UnitsContext|@tanstack|react-router', dependencyTypesNot: ['type-only'] },
    },
    {
      name: 'places-apart',
      comment: 'A place of the menu does not reach into another.',
      severity: 'error',
      from: { path: '^src/(board|machines|readings|instruments|products|shelf|rules|people|practice|start)/', pathNot: TESTS },
      to: { path: '^src/(board|machines|readings|instruments|products|shelf|rules|people|practice|start)/', pathNot: '^src/$1/' },
    },
  ],
  options: {
    doNotFollow: { path: 'node_modules' },
    tsPreCompilationDeps: true,
    tsConfig: { fileName: 'tsconfig.json' },
    enhancedResolveOptions: { extensions: ['.ts', '.tsx', '.js', '.css'] },
  },
};
