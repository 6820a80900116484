import { STARTER_KITS } from '../kit/starters.ts';
import { FORMAT, VERSION, type Project } from './schema.ts';

/** A new project: one plain arched roof, divided, with framed panes on it. */
export function starterProject(name: string): Project {
	const section = { span: 12_000, rise: 2_400, lean: 0, shift: 0, startHeight: 4_000, endHeight: 4_000 };
	return {
		format: FORMAT,
		version: VERSION,
		name,
		units: 'mm',
		materials: [
			// EN 572-1 and EN 1999-1-1.
			{ id: 'glass', name: 'Glass', density: 2500, colour: '#8FB8C4', opacity: 0.6 },
			{ id: 'aluminium', name: 'Aluminium', density: 2700, colour: '#8C9296', opacity: 1 }
		],
		kits: structuredCloneOf(STARTER_KITS),
		masses: [
			{
				id: 'roof',
				name: 'Roof',
				shape: {
					kind: 'loft',
					length: 24_000,
					sections: [
						{ at: 0, ...section },
						{ at: 1, ...section }
					]
				},
				faces: [
					{
						id: 'skin',
						name: 'Roof skin',
						mark: 'R1',
						settingOut: {
							across: { kind: 'count', count: 10 },
							up: { kind: 'count', count: 16 }
						},
						tiling: { kind: 'rectangular' }
					}
				]
			}
		],
		rules: [{ id: 'rule-1', face: 'roof/skin', kit: 'framed-pane', values: {} }]
	};
}

const structuredCloneOf = (kits: typeof STARTER_KITS): Project['kits'] =>
	JSON.parse(JSON.stringify(kits)) as Project['kits'];
