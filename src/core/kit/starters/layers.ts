import type { KitInput } from '../schema.ts';
import { length, material, wall, wallWithin } from './fields.ts';

/*
 * What two layers are made of, each with rules of its own: chords on either layer (or on the second one from middle to
 * middle of cells), and posts or diagonals between them.
 */
const parameters: KitInput['parameters'] = [
	length('diameter', 'Diameter', 76, 5, 600),
	wall(5),
	material('finish', 'Material', 'steel')
];
const tube = (name: string, line: string, on?: string): KitInput['steps'][number] => ({
	kind: 'bar',
	name,
	...(on ? { on } : {}),
	role: 'rod',
	material: 'finish',
	line,
	profile: 'tube',
	width: 'diameter',
	wall: wallWithin('diameter')
});

type On = Extract<KitInput['host'], { kind: 'edge' }>['on'];
const along = (id: string, name: string, help: string, on: On, part = 'chord'): KitInput => ({
	id,
	name,
	help,
	host: { kind: 'edge', edges: [], on, section: 'diameter' },
	parameters,
	steps: [
		{ kind: 'outline', name: 'edge' },
		{
			kind: 'cut',
			name: 'axis',
			of: 'edge',
			start: 'min(startRoom, 0.45 * length(edge))',
			end: 'min(endRoom, 0.45 * length(edge))'
		},
		tube(part, 'axis')
	]
});

const POST: KitInput = {
	id: 'layer-post',
	name: 'Post between the layers',
	help: 'A tube from each node to its place on the second layer',
	host: { kind: 'node', nodes: 'all' },
	parameters,
	steps: [
		{ kind: 'corner', name: 'foot', corner: 0 },
		{ kind: 'corner', name: 'head', corner: 0, layer: 'upper' },
		{ kind: 'line', name: 'axis', through: ['foot', 'head'] },
		tube('post', 'axis')
	]
};

const WEB: KitInput = {
	id: 'layer-web',
	name: 'Diagonals to the middle',
	help: 'From every corner of a cell to its middle on the second layer: pyramids, whose tips chords from middle to middle join',
	host: { kind: 'box', leastCorners: 3, greatestCorners: 64 },
	parameters,
	steps: [
		{ kind: 'outline', name: 'top', layer: 'upper' },
		{ kind: 'middle', name: 'tip', of: ['top'] },
		{ kind: 'outline', name: 'base' },
		{ kind: 'each', name: 'legs', of: 'base', what: 'spokes', from: 'tip' },
		{ kind: 'outline', name: 'axis', on: 'legs' },
		tube('diagonal', 'axis', 'legs')
	]
};

/** Kits of frames in two layers. */
export const LAYER_KITS = [
	along('layer-chord', 'Chord on the face', 'A tube along every edge, cut back at its nodes', 'face'),
	along('layer-chord-upper', 'Chord on the second layer', 'A tube along every edge of the second layer', 'layer'),
	along(
		'layer-chord-middles',
		'Chord from middle to middle',
		'On the second layer, between the middles of neighbouring cells: the second net of a space frame',
		'middles'
	),
	POST,
	along(
		'layer-rising',
		'Diagonal along an edge',
		'From the start of every edge on the face to its end on the second layer',
		'rising',
		'diagonal'
	),
	WEB
];
