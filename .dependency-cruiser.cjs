/** Imports go one way: pages → server → service → store; everything may use core; core uses nothing of ours. */
const only = (name, from, allowed) => ({
	name,
	severity: 'error',
	from: { path: `^src/${from}` },
	to: { path: '^src/', pathNot: allowed.map((a) => `^src/${a}`) },
});

module.exports = {
	forbidden: [
		only('core-uses-nothing-of-ours', 'core/', ['core/']),
		only('words-use-core', 'words/', ['words/', 'core/']),
		only('contract-uses-words-and-core', 'contract/', ['contract/', 'words/', 'core/']),
		only('files-use-words-and-core', 'files/', ['files/', 'contract/', 'words/', 'core/']),
		only('sim-uses-core', 'sim/', ['sim/', 'core/']),
		only('store-uses-core', 'store/', ['store/', 'core/']),
		only('service-uses-store-and-core', 'service/', ['service/', 'store/', 'files/', 'contract/', 'words/', 'core/']),
		only('server-uses-service', 'server/', ['server/', 'service/', 'store/', 'files/', 'contract/', 'core/', 'words/', 'sim/meter', 'sim/random', 'demo/load']),
		only('views-use-core-and-the-contract', 'views/', ['views/', 'contract/', 'core/', 'words/']),
		only('cli-uses-files', 'cli/', ['cli/', 'files/', 'core/', 'sim/']),
		{
			name: 'core-is-pure',
			severity: 'error',
			from: { path: '^src/core/' },
			to: { path: '^(react|pg|astro|fs|net|http|child_process|crypto)', dependencyTypes: ['npm', 'core'] },
		},
		{
			name: 'views-know-the-contract-by-its-types-alone',
			comment: 'Its schemas are larger than any page; a form that is being filled in fetches them.',
			severity: 'error',
			from: { path: '^src/views/', pathNot: '^src/views/data/checked' },
			to: { path: '^src/contract/', pathNot: '^src/contract/names', dependencyTypesNot: ['type-only'] },
		},
		{ name: 'no-circles', severity: 'error', from: { path: '^src/' }, to: { circular: true, viaOnly: { dependencyTypesNot: ['type-only'] } } },
	],
	options: {
		doNotFollow: { path: 'node_modules' },
		tsConfig: { fileName: 'tsconfig.json' },
		tsPreCompilationDeps: true,
		exclude: { path: '\\.astro$' },
	},
};
