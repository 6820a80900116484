import type { KitInput } from '../schema.ts';
import { joint, length, material, paneThickness, steps, wall, wallWithin } from './fields.ts';

/** The nine points of a bay of 2 × 2 cells, around its middle. */
const AROUND = [1, 2, 3, 6, 9, 8, 7, 4];

const FOLDED: KitInput = {
	id: 'folded-bay',
	name: 'Folded bay',
	help: 'Eight triangles from the nine points of 2 × 2 cells, folded up to a peak over the middle one, with bars along the folds',
	host: { kind: 'bay', across: 2, up: 2 },
	parameters: [
		length('rise', 'Rise', 350, -5000, 5000, { help: 'How far the peak lies outside of the middle point' }),
		joint,
		length('sheetThickness', 'Sheet', 3, 0.5, 50),
		length('fold', 'Bars on folds', 40, 5, 500, { help: 'Diameter' }),
		material('finish', 'Material', 'aluminium')
	],
	steps: steps(
		{ kind: 'corner', name: 'middle', corner: 5 },
		{ kind: 'lift', name: 'peak', of: 'middle', distance: 'rise' },
		...AROUND.flatMap((corner, k) => {
			const next = AROUND[(k + 1) % AROUND.length]!;
			return steps(
				{ kind: 'corner', name: `a${k + 1}`, corner },
				{ kind: 'corner', name: `b${k + 1}`, corner: next },
				{ kind: 'line', name: `triangle${k + 1}`, through: [`a${k + 1}`, `b${k + 1}`, 'peak'], closed: true },
				{ kind: 'inset', name: `rim${k + 1}`, of: `triangle${k + 1}`, distance: 'joint' },
				{
					kind: 'sheet',
					name: `sheet${k + 1}`,
					role: 'panel',
					material: 'finish',
					outline: `rim${k + 1}`,
					thickness: 'sheetThickness'
				},
				{ kind: 'line', name: `fold${k + 1}`, through: ['peak', `a${k + 1}`] },
				{
					kind: 'bar',
					name: `bar${k + 1}`,
					role: 'frame',
					material: 'steel',
					line: `fold${k + 1}`,
					profile: 'round',
					width: 'fold'
				}
			);
		})
	)
};

const GLAZED: KitInput = {
	id: 'glazed-bay',
	name: 'Glazed bay',
	help: 'One strong frame around 3 × 2 cells, with a pane in each of them',
	host: { kind: 'bay', across: 3, up: 2 },
	parameters: [
		length('frameWidth', 'Frame width', 120, 5, 1000),
		length('frameDepth', 'Frame depth', 200, 5, 2000),
		wall(5),
		joint,
		paneThickness,
		material('finish', 'Frame material', 'aluminium')
	],
	steps: steps(
		{ kind: 'outline', name: 'border' },
		{ kind: 'inset', name: 'axis', of: 'border', distance: 'frameWidth / 2' },
		{
			kind: 'bar',
			name: 'frame',
			role: 'frame',
			material: 'finish',
			line: 'axis',
			profile: 'hollow',
			width: 'frameWidth',
			depth: 'frameDepth',
			wall: wallWithin('frameWidth', 'frameDepth'),
			lies: 'inside'
		},
		{ kind: 'cells', name: 'cells' },
		{ kind: 'outline', name: 'field', on: 'cells' },
		{ kind: 'inset', name: 'rim', on: 'cells', of: 'field', distance: 'frameWidth / 2 + joint' },
		{
			kind: 'sheet',
			name: 'panes',
			on: 'cells',
			role: 'pane',
			material: 'glass',
			outline: 'rim',
			thickness: 'paneThickness'
		}
	)
};

/** Kits for bays of several cells. */
export const BAY_KITS = [FOLDED, GLAZED];
