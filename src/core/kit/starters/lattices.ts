import type { KitInput } from '../schema.ts';
import { cell, choice, count, joint, length, material, ratio, steps, wall, wallWithin } from './fields.ts';

type Step = KitInput['steps'][number];
const bar = (name: string, line: string, diameter: string): Step => ({
	kind: 'bar',
	name,
	role: 'rod',
	material: 'steel',
	line,
	profile: 'tube',
	width: diameter,
	wall: wallWithin(diameter)
});
const arc = (name: string, through: string[]): Step => ({ kind: 'line', name, through, shape: 'arc' });
const corner = (name: string, number: number): Step => ({ kind: 'corner', name, corner: number });

const SPACE_FRAME: KitInput = {
	id: 'space-frame-bay',
	name: 'Curved space-frame bay',
	help: 'Nine points on the face, arcs through them, a lower node and the diagonals that hold it',
	host: cell(4, 4),
	parameters: [
		length('depth', 'Depth', 700, 50, 5000, { help: 'Of the lower node behind the face' }),
		length('chord', 'Chords', 89, 5, 400, { group: 'Diameters' }),
		length('brace', 'Diagonals', 60, 5, 400, { group: 'Diameters' }),
		wall(5, { group: 'Diameters', help: 'Of chords and diagonals, which are tubes' }),
		length('node', 'Nodes', 130, 10, 600, { group: 'Diameters' })
	],
	steps: [
		corner('c1', 1),
		corner('c2', 2),
		corner('c3', 3),
		corner('c4', 4),
		...[
			[1, 2],
			[2, 3],
			[3, 4],
			[4, 1]
		].flatMap(([a, b], k) =>
			steps(
				{ kind: 'middle', name: `half${k + 1}`, of: [`c${a}`, `c${b}`] },
				{ kind: 'onFace', name: `m${k + 1}`, of: `half${k + 1}` }
			)
		),
		{ kind: 'middle', name: 'inner', of: ['c1', 'c2', 'c3', 'c4'] },
		{ kind: 'onFace', name: 'centre', of: 'inner' },
		{ kind: 'lift', name: 'low', of: 'centre', distance: 'depth', towards: 'inside' },
		arc('lower', ['c1', 'm1', 'c2']),
		arc('left', ['c1', 'm4', 'c4']),
		arc('across', ['m4', 'centre', 'm2']),
		arc('up', ['m1', 'centre', 'm3']),
		bar('lowerChord', 'lower', 'chord'),
		bar('leftChord', 'left', 'chord'),
		bar('acrossChord', 'across', 'chord'),
		bar('upChord', 'up', 'chord'),
		...[1, 2, 3, 4].flatMap((k) =>
			steps({ kind: 'line', name: `d${k}`, through: [`c${k}`, 'low'] }, bar(`diagonal${k}`, `d${k}`, 'brace'))
		),
		...['centre', 'low', 'c1'].flatMap((at) =>
			steps(
				{ kind: 'ball', name: `${at}Ball`, at, radius: 'node / 2' },
				{ kind: 'solid', name: `${at}Node`, role: 'connector', material: 'steel', body: `${at}Ball` }
			)
		)
	]
};

const LATTICE: KitInput = {
	id: 'lattice',
	name: 'Lattice',
	help: 'Bars in squares, in which small squares appear as their share grows from below to above',
	host: cell(4, 4),
	parameters: [
		joint,
		count('fields', 'Fields', 4, 1, 12, { help: 'Across and up' }),
		length('barWidth', 'Bar width', 30, 5, 300),
		length('barDepth', 'Bar depth', 50, 5, 400),
		ratio('share', 'Squares, above', 0.8, 0, 0.95, {
			help: 'Size of the small squares in the highest row, as a share of a field'
		}),
		ratio('least', 'Squares from', 0.3, 0, 1, { help: 'Smaller squares are left out' }),
		material('finish', 'Squares', 'aluminium')
	],
	steps: [
		{ kind: 'outline', name: 'outline' },
		{ kind: 'inset', name: 'rim', of: 'outline', distance: 'joint + barWidth / 2' },
		{ kind: 'divide', name: 'grid', of: 'rim', across: 'fields', up: 'fields' },
		{ kind: 'outline', name: 'field', on: 'grid' },
		{ kind: 'value', name: 'size', on: 'grid', quantity: 'ratio', value: 'share * j / rows' },
		{ kind: 'inset', name: 'small', on: 'grid', when: 'size >= least', of: 'field', by: 'ratio', distance: '1 - size' },
		{
			kind: 'bar',
			name: 'rimBars',
			role: 'rod',
			material: 'aluminium',
			line: 'rim',
			width: 'barWidth',
			depth: 'barDepth'
		},
		{ kind: 'side', name: 'lowerSide', of: 'rim', side: 1 },
		{ kind: 'side', name: 'rightSide', of: 'rim', side: 2 },
		{
			kind: 'blades',
			name: 'barsAcross',
			when: 'fields > 1',
			role: 'rod',
			material: 'aluminium',
			outline: 'rim',
			run: 'across',
			amount: 'max(1, fields - 1)',
			margin: 'length(rightSide) / (2 * fields)',
			width: 'barWidth',
			depth: 'barDepth',
			ends: 'barWidth / 2'
		},
		{
			kind: 'blades',
			name: 'barsUp',
			when: 'fields > 1',
			role: 'rod',
			material: 'aluminium',
			outline: 'rim',
			run: 'up',
			amount: 'max(1, fields - 1)',
			margin: 'length(lowerSide) / (2 * fields)',
			width: 'barWidth',
			depth: 'barDepth',
			ends: 'barWidth / 2'
		},
		{ kind: 'sheet', name: 'squares', on: 'grid', role: 'panel', material: 'finish', outline: 'small', thickness: 3 }
	]
};

const SCREEN: KitInput = {
	id: 'perforated-screen',
	name: 'Perforated screen',
	help: 'A plate with many openings, more or less open towards its upper side',
	host: cell(),
	parameters: [
		joint,
		length('spacing', 'Spacing', 160, 20, 2000),
		ratio('open', 'Open below', 0.2, 0, 0.85, { help: 'Share of a field' }),
		ratio('openAbove', 'Open above', 0.6, 0, 0.85),
		length('margin', 'Margin', 60, 0, 500),
		length('sheet', 'Plate', 4, 1, 50),
		choice('pattern', 'Openings', ['squares', 'round', 'irregular'])
	],
	steps: [
		{ kind: 'outline', name: 'outline' },
		{ kind: 'inset', name: 'rim', of: 'outline', distance: 'joint' },
		...(
			[
				['squares', 'squares', 'field'],
				['round', 'hexagons', 'round'],
				['irregular', 'voronoi', 'field']
			] as const
		).map(
			([name, tiles, opening]) =>
				({
					kind: 'screen',
					name: `${name}Screen`,
					when: `pattern == "${name}"`,
					role: 'screen',
					material: 'aluminium',
					outline: 'rim',
					tiles,
					opening,
					spacing: 'spacing',
					share: 'open',
					shareEnd: 'openAbove',
					margin: 'margin',
					thickness: 'sheet'
				}) as const
		)
	]
};

const HOLLOWED_BLOCK: KitInput = {
	id: 'hollowed-block',
	name: 'Hollowed block',
	help: 'A block with balls taken out of its corners and its middle, made once in a mould and fitted into every cell',
	host: cell(4, 4),
	parameters: [
		joint,
		length('depth', 'Depth', 300, 20, 3000),
		ratio('cornerBall', 'Corner balls', 0.3, 0.02, 0.49, { help: 'Radius as a share of the block’s side' }),
		ratio('middleBall', 'Middle ball', 0.4, 0.02, 0.6, { help: 'Radius as a share of the block’s side' })
	],
	steps: [
		{ kind: 'outline', name: 'outline' },
		{ kind: 'inset', name: 'lower', of: 'outline', distance: 'joint' },
		{ kind: 'lift', name: 'upper', of: 'lower', distance: 'depth' },
		{ kind: 'mould', name: 'mould', width: 1000, height: 1000, depth: 1000 },
		{ kind: 'outline', name: 'base', on: 'mould' },
		{ kind: 'prism', name: 'block', on: 'mould', outline: 'base', height: 1000 },
		...(['lower', 'upper'] as const).flatMap((layer) =>
			[1, 2, 3, 4].flatMap((k) =>
				steps(
					{ kind: 'corner', name: `${layer}${k}`, on: 'mould', corner: k, layer },
					{
						kind: 'ball',
						name: `${layer}Ball${k}`,
						on: 'mould',
						at: `${layer}${k}`,
						radius: 'cornerBall * 1000 mm',
						pieces: 16
					}
				)
			)
		),
		{ kind: 'middle', name: 'heart', on: 'mould', of: ['lower1', 'upper3'] },
		{ kind: 'ball', name: 'heartBall', on: 'mould', at: 'heart', radius: 'middleBall * 1000 mm', pieces: 20 },
		{
			kind: 'combine',
			name: 'hollowed',
			on: 'mould',
			operation: 'difference',
			of: ['block', ...['lower', 'upper'].flatMap((l) => [1, 2, 3, 4].map((k) => `${l}Ball${k}`)), 'heartBall']
		},
		{
			kind: 'module',
			name: 'body',
			role: 'panel',
			material: 'ceramic',
			mould: 'mould',
			body: 'hollowed',
			lower: 'lower',
			upper: 'upper'
		}
	]
};

/** Kits of many members. */
export const LATTICES = [SPACE_FRAME, LATTICE, SCREEN, HOLLOWED_BLOCK];
