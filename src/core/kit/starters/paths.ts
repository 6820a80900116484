import type { KitInput } from '../schema.ts';
import { AWAY, length, material, ratio } from './fields.ts';

const OFF = length('off', 'Off the path', 0, -5000, 5000, { help: 'Along the normals; below 0 inwards' });
const HOST = { kind: 'path', along: 'up', every: 1 } as const;

const RIB: KitInput = {
	id: 'path-rib',
	name: 'Rib along a path',
	help: 'A flat or boxed bar bent smoothly through a chain of points, its depth along the normals',
	host: HOST,
	parameters: [
		length('width', 'Width', 80, 2, 2000),
		length('depth', 'Depth', 200, 2, 5000),
		OFF,
		material('finish', 'Material', 'timber')
	],
	steps: [
		...AWAY,
		{ kind: 'line', name: 'axis', through: ['away'], shape: 'smooth', pieces: 2 },
		{
			kind: 'bar',
			name: 'rib',
			role: 'rod',
			material: 'finish',
			line: 'axis',
			profile: 'rectangle',
			width: 'width',
			depth: 'depth',
			frame: 'least'
		}
	]
};

const CABLE: KitInput = {
	id: 'path-cable',
	name: 'Cable with a sag',
	help: 'A cable from point to point of a path, hanging through between them by a share of the span, with a clamp at each point',
	host: HOST,
	parameters: [
		length('diameter', 'Diameter', 16, 2, 200),
		ratio('sag', 'Sag', 0.03, 0, 0.5, { help: 'Of each span, at its middle' }),
		length('clamp', 'Clamp', 30, 2, 500, { help: 'Radius of the ball that holds it' }),
		OFF,
		material('finish', 'Material', 'stainless')
	],
	steps: [
		...AWAY,
		{ kind: 'each', name: 'span', of: 'away', what: 'sides' },
		{ kind: 'outline', name: 'chord', on: 'span' },
		{ kind: 'middle', name: 'half', on: 'span', of: ['chord'] },
		{ kind: 'lift', name: 'low', on: 'span', of: 'half', distance: 'sag * length(chord)', towards: 'down' },
		{ kind: 'corner', name: 'a', on: 'span', corner: 1 },
		{ kind: 'corner', name: 'b', on: 'span', corner: 2 },
		{ kind: 'line', name: 'hang', on: 'span', through: ['a', 'low', 'b'], shape: 'smooth', pieces: 6 },
		{
			kind: 'bar',
			name: 'cable',
			on: 'span',
			role: 'rod',
			material: 'finish',
			line: 'hang',
			profile: 'round',
			width: 'diameter'
		},
		{ kind: 'each', name: 'stop', of: 'away', what: 'corners' },
		{ kind: 'corner', name: 'here', on: 'stop', corner: 0 },
		{ kind: 'ball', name: 'clampBody', on: 'stop', at: 'here', radius: 'clamp', pieces: 10 },
		{ kind: 'solid', name: 'clamps', on: 'stop', role: 'connector', material: 'finish', body: 'clampBody' }
	]
};

const FIN: KitInput = {
	id: 'path-fin',
	name: 'Fin along a path',
	help: 'A sheet that stands out along a path, as deep as is asked; its depth can follow a field from point to point',
	host: HOST,
	parameters: [
		length('depth', 'Depth', 300, 10, 5000),
		length('thickness', 'Thickness', 6, 0.5, 100),
		OFF,
		material('finish', 'Material', 'aluminium')
	],
	steps: [
		{ kind: 'outline', name: 'path' },
		{ kind: 'lift', name: 'foot', of: 'path', distance: 'off', towards: 'corners' },
		{ kind: 'lift', name: 'edge', of: 'foot', distance: 'depth', towards: 'corners' },
		{ kind: 'ribbon', name: 'fin', role: 'fin', material: 'finish', from: 'foot', to: 'edge', thickness: 'thickness' }
	]
};

const BALLS: KitInput = {
	id: 'path-balls',
	name: 'Balls at the points of a path',
	help: 'A ball at every point of a path, such as a lamp or a node piece',
	host: HOST,
	parameters: [length('diameter', 'Diameter', 120, 5, 5000), OFF, material('finish', 'Material', 'steel')],
	steps: [
		...AWAY,
		{ kind: 'each', name: 'stop', of: 'away', what: 'corners' },
		{ kind: 'corner', name: 'here', on: 'stop', corner: 0 },
		{ kind: 'ball', name: 'body', on: 'stop', at: 'here', radius: 'diameter / 2' },
		{ kind: 'solid', name: 'balls', on: 'stop', role: 'connector', material: 'finish', body: 'body' }
	]
};

/** Kits for paths. */
export const PATH_KITS = [RIB, CABLE, FIN, BALLS];
