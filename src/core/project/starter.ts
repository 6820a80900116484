import { STARTER_KITS } from '../kit/starters/index.ts';
import { STARTER_MATERIALS } from './starterMaterials.ts';
import { PRESETS } from '../mass/presets.ts';
import { STARTER_SETS } from './starterSets.ts';
import { newMass } from './newMass.ts';
import { FORMAT, VERSION, type Project } from './schema.ts';

/** The starters that a new project has; the others are on offer. */
const FIRST_KITS: readonly string[] = ['flat-pane', 'framed-pane', 'mullion'];

/** A new project: one plain arched roof, divided, with framed panes on it. */
export function starterProject(name: string): Project {
	const roof = newMass(PRESETS.vault, [], { id: 'roof', name: 'Roof', marks: [], letter: 'R' });
	roof.faces[0]!.name = 'Roof skin';
	return {
		...emptyProject(name),
		masses: [roof],
		rules: [{ id: 'rule-1', set: 'panels', faces: ['roof/skin'], where: [], kit: 'framed-pane', values: {} }]
	};
}

/** A project without masses, with the starter kits and their materials. */
export function emptyProject(name: string): Project {
	return {
		format: FORMAT,
		version: VERSION,
		name,
		units: 'mm',
		materials: JSON.parse(JSON.stringify(STARTER_MATERIALS)) as Project['materials'],
		kits: JSON.parse(JSON.stringify(STARTER_KITS.filter((k) => FIRST_KITS.includes(k.id)))) as Project['kits'],
		modules: [],
		levels: [],
		zones: [],
		tilings: [],
		masses: [],
		references: [],
		numbers: [],
		fields: [],
		paths: [],
		sets: STARTER_SETS.map((set) => ({ ...set })),
		rules: [],
		overrides: [],
		tables: [],
		notes: [],
		costs: { currency: 'EUR', rates: [], sheet: [3000, 1500], sealant: 0 },
		types: { rules: [], numbered: 'frequency', fixed: {} },
		handover: { name: '', files: [], options: {}, sheets: [] }
	};
}
