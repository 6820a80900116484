import type { RuleSet } from '../placement/rules/schema.ts';

/** The sets of rules that a new project has. */
export const STARTER_SETS: readonly RuleSet[] = [
	{ id: 'panels', name: 'Panels', host: 'cell' },
	{ id: 'edges', name: 'Edges', host: 'edge' },
	{ id: 'nodes', name: 'Nodes', host: 'node' },
	{ id: 'paths', name: 'Paths', host: 'path' }
];
