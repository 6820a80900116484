import type { KitInput } from '../schema.ts';
import { cell, choice, joint, length, material, paneThickness, ratio, wall, wallWithin, yesno } from './fields.ts';

export const FLAT_PANE: KitInput = {
	id: 'flat-pane',
	name: 'Flat pane',
	help: 'A pane of glass with a joint around it, on cells of any shape',
	host: cell(),
	parameters: [joint, paneThickness],
	steps: [
		{ kind: 'outline', name: 'outline' },
		{ kind: 'inset', name: 'rim', of: 'outline', distance: 'joint' },
		{ kind: 'sheet', name: 'pane', role: 'pane', material: 'glass', outline: 'rim', thickness: 'paneThickness' }
	]
};

export const FRAMED_PANE: KitInput = {
	id: 'framed-pane',
	name: 'Framed pane',
	help: 'A frame of folded sheet with a reveal and a pane set back behind it',
	host: cell(),
	parameters: [
		length('frameWidth', 'Frame width', 90, 1, 2000, { help: 'Seen width of the frame, square to each edge' }),
		length('recess', 'Recess', 120, 0, 2000, { help: 'How far the pane sits behind the frame' }),
		length('frameThickness', 'Frame sheet', 3, 0.5, 50, {
			help: 'Thickness of the folded sheet that makes frame and reveal'
		}),
		paneThickness
	],
	steps: [
		{ kind: 'outline', name: 'outline' },
		{ kind: 'inset', name: 'inner', of: 'outline', distance: 'frameWidth' },
		{ kind: 'lift', name: 'sunk', of: 'inner', distance: 'recess', towards: 'inside' },
		{
			kind: 'sheet',
			name: 'frame',
			role: 'frame',
			material: 'aluminium',
			outline: 'outline',
			hole: 'inner',
			thickness: 'frameThickness'
		},
		{
			kind: 'ribbon',
			name: 'reveal',
			role: 'reveal',
			material: 'aluminium',
			from: 'inner',
			to: 'sunk',
			thickness: 'frameThickness'
		},
		{ kind: 'sheet', name: 'pane', role: 'pane', material: 'glass', outline: 'sunk', thickness: 'paneThickness' }
	]
};

const CASSETTE: KitInput = {
	id: 'cassette',
	name: 'Cassette',
	help: 'A sheet panel with folded returns and a lip behind',
	host: cell(),
	parameters: [
		joint,
		length('returns', 'Returns', 60, 5, 400, { help: 'How far the sides are folded back' }),
		length('lip', 'Lip', 25, 1, 200, { help: 'Width of the edge folded in behind' }),
		length('sheet', 'Sheet', 3, 0.5, 10),
		material('finish', 'Material', 'aluminium')
	],
	steps: [
		{ kind: 'outline', name: 'outline' },
		{ kind: 'inset', name: 'front', of: 'outline', distance: 'joint' },
		{ kind: 'lift', name: 'back', of: 'front', distance: 'returns', towards: 'inside' },
		{ kind: 'inset', name: 'edge', of: 'back', distance: 'lip' },
		{ kind: 'sheet', name: 'panel', role: 'panel', material: 'finish', outline: 'front', thickness: 'sheet' },
		{ kind: 'ribbon', name: 'sides', role: 'panel', material: 'finish', from: 'back', to: 'front', thickness: 'sheet' },
		{
			kind: 'sheet',
			name: 'lips',
			role: 'panel',
			material: 'finish',
			outline: 'back',
			hole: 'edge',
			thickness: 'sheet'
		}
	]
};

const onSide = (name: string, of: string, at: string) => ({ kind: 'along', name, of, at }) as const;
const side = (name: string, number: number) => ({ kind: 'side', name, of: 'rim', side: number }) as const;
const closed = (name: string, through: string[]) => ({ kind: 'line', name, through, closed: true }) as const;
const between = (name: string, from: string, to: string): KitInput['steps'][number] => ({
	kind: 'line',
	name,
	through: [from, to]
});

const RATIO_OPENING: KitInput = {
	id: 'ratio-opening',
	name: 'Plate with opening',
	help: 'A plate whose opening is set by shares of its four edges; opposite edges run against each other, so t there is 1 − t here',
	host: cell(4, 4),
	parameters: [
		joint,
		ratio('left', 'Opening from', 0.2, 0.05, 0.9, { group: 'Opening', help: 'Share of the lower edge, from the left' }),
		ratio('right', 'Opening to', 0.8, 0.1, 0.95, { group: 'Opening', help: 'Share of the lower edge, from the left' }),
		ratio('bottom', 'Sill', 0.25, 0.05, 0.9, { group: 'Opening', help: 'Share of the right edge, from below' }),
		ratio('top', 'Head', 0.85, 0.1, 0.95, { group: 'Opening', help: 'Share of the right edge, from below' }),
		length('thickness', 'Plate', 6, 1, 400),
		material('finish', 'Material', 'aluminium')
	],
	steps: [
		{ kind: 'outline', name: 'outline' },
		{ kind: 'inset', name: 'rim', of: 'outline', distance: 'joint' },
		side('lower', 1),
		side('rightSide', 2),
		side('upper', 3),
		side('leftSide', 4),
		{ kind: 'value', name: 'openAcross', quantity: 'ratio', value: 'right - left', least: 0.02 },
		{ kind: 'value', name: 'openUp', quantity: 'ratio', value: 'top - bottom', least: 0.02 },
		onSide('l1', 'lower', 'left'),
		onSide('l2', 'upper', '1 - left'),
		onSide('r1', 'lower', 'right'),
		onSide('r2', 'upper', '1 - right'),
		onSide('b1', 'rightSide', 'bottom'),
		onSide('b2', 'leftSide', '1 - bottom'),
		onSide('t1', 'rightSide', 'top'),
		onSide('t2', 'leftSide', '1 - top'),
		between('leftLine', 'l1', 'l2'),
		between('rightLine', 'r1', 'r2'),
		between('sill', 'b1', 'b2'),
		between('head', 't1', 't2'),
		{ kind: 'crossing', name: 'o1', first: 'leftLine', second: 'sill' },
		{ kind: 'crossing', name: 'o2', first: 'rightLine', second: 'sill' },
		{ kind: 'crossing', name: 'o3', first: 'rightLine', second: 'head' },
		{ kind: 'crossing', name: 'o4', first: 'leftLine', second: 'head' },
		closed('opening', ['o1', 'o2', 'o3', 'o4']),
		{ kind: 'lift', name: 'behind', of: 'opening', distance: 'thickness / 2', towards: 'inside' },
		{
			kind: 'plate',
			name: 'plate',
			role: 'panel',
			material: 'finish',
			outline: 'rim',
			thickness: 'thickness',
			holes: ['opening']
		},
		{ kind: 'sheet', name: 'pane', role: 'pane', material: 'glass', outline: 'behind', thickness: 12 },
		{ kind: 'value', name: 'openShare', quantity: 'ratio', value: 'area(opening) / area(rim)' }
	]
};

const FOLDED_PANEL: KitInput = {
	id: 'folded-panel',
	name: 'Folded panel',
	help: 'A panel raised along its upper edge, with two cheeks and open above; the larger the cell, the higher it stands',
	host: cell(4, 4),
	parameters: [
		joint,
		length('height', 'Height', 300, 20, 1500, {
			formula: '0.25 * sqrt(area)',
			help: 'Of the raised edge; follows the area of the cell'
		}),
		length('sheet', 'Sheet', 3, 0.5, 10),
		material('finish', 'Material', 'aluminium')
	],
	steps: [
		{ kind: 'outline', name: 'outline' },
		{ kind: 'inset', name: 'rim', of: 'outline', distance: 'joint' },
		side('lower', 1),
		side('rightEdge', 2),
		side('upper', 3),
		side('leftEdge', 4),
		{ kind: 'lift', name: 'raised', of: 'upper', distance: 'height' },
		closed('flapLine', ['lower', 'raised']),
		{ kind: 'along', name: 'raisedRight', of: 'raised', at: 0 },
		{ kind: 'along', name: 'raisedLeft', of: 'raised', at: 1 },
		closed('rightLine', ['rightEdge', 'raisedRight']),
		closed('leftLine', ['leftEdge', 'raisedLeft']),
		{ kind: 'sheet', name: 'flap', role: 'panel', material: 'finish', outline: 'flapLine', thickness: 'sheet' },
		{ kind: 'sheet', name: 'rightCheek', role: 'panel', material: 'finish', outline: 'rightLine', thickness: 'sheet' },
		{ kind: 'sheet', name: 'leftCheek', role: 'panel', material: 'finish', outline: 'leftLine', thickness: 'sheet' }
	]
};

const PYRAMID: KitInput = {
	id: 'pyramid',
	name: 'Pyramid',
	help: 'A panel drawn out to a tip, on cells of any number of corners',
	host: cell(),
	parameters: [
		joint,
		length('height', 'Height', 250, -2000, 2000, { help: 'Of the tip; below 0 it points inside' }),
		length('sheet', 'Sheet', 3, 0.5, 10),
		yesno('glazed', 'Glazed', 0, 'Of glass instead of sheet')
	],
	steps: [
		{ kind: 'outline', name: 'outline' },
		{ kind: 'inset', name: 'rim', of: 'outline', distance: 'joint' },
		{ kind: 'middle', name: 'centre', of: ['rim'] },
		{ kind: 'lift', name: 'tip', of: 'centre', distance: 'height' },
		{
			kind: 'sheet',
			name: 'panel',
			when: 'glazed == no',
			role: 'panel',
			material: 'aluminium',
			outline: 'rim',
			shape: 'centre',
			tip: 'tip',
			thickness: 'sheet'
		},
		{
			kind: 'sheet',
			name: 'pane',
			when: 'glazed == yes',
			role: 'pane',
			material: 'glass',
			outline: 'rim',
			shape: 'centre',
			tip: 'tip',
			thickness: 12
		}
	]
};

const GLAZED_TRIANGLE: KitInput = {
	id: 'glazed-triangle',
	name: 'Glazed triangle',
	help: 'A three-cornered pane with round tubes along its edges',
	host: cell(3, 3),
	parameters: [
		joint,
		paneThickness,
		length('diameter', 'Bar diameter', 76, 5, 500),
		wall(5),
		length('below', 'Bars below', 60, 0, 1000, { help: 'Of the bars’ middle, behind the pane' }),
		choice('ends', 'Bar corners', ['mitred', 'butted'])
	],
	steps: [
		{ kind: 'outline', name: 'outline' },
		{ kind: 'inset', name: 'rim', of: 'outline', distance: 'joint' },
		{ kind: 'sheet', name: 'pane', role: 'pane', material: 'glass', outline: 'rim', thickness: 'paneThickness' },
		{ kind: 'inset', name: 'run', of: 'outline', distance: 'joint + diameter / 2' },
		{ kind: 'lift', name: 'axis', of: 'run', distance: 'below', towards: 'inside' },
		{
			kind: 'bar',
			name: 'bars',
			when: 'ends == "mitred"',
			role: 'mullion',
			material: 'steel',
			line: 'axis',
			profile: 'tube',
			width: 'diameter',
			wall: wallWithin('diameter')
		},
		{
			kind: 'bar',
			name: 'buttedBars',
			when: 'ends == "butted"',
			role: 'mullion',
			material: 'steel',
			line: 'axis',
			profile: 'tube',
			width: 'diameter',
			wall: wallWithin('diameter'),
			corners: 'butted'
		}
	]
};

/** Kits that fill a cell. */
export const PANELS = [FLAT_PANE, FRAMED_PANE, CASSETTE, RATIO_OPENING, FOLDED_PANEL, PYRAMID, GLAZED_TRIANGLE];
