import type { KitInput } from '../schema.ts';
import { AWAY, count, length, material, ratio, wall, wallWithin } from './fields.ts';

const edges = { kind: 'edge', edges: [] } satisfies KitInput['host'];
const cutBack = length('cutBack', 'Gap at nodes', 5, 0, 1000, {
	help: 'At each end, beyond the thickest bar or node piece there'
});
const finish = material('finish', 'Material', 'aluminium');
const run = [
	{ kind: 'outline', name: 'edge' },
	{
		kind: 'cut',
		name: 'axis',
		of: 'edge',
		start: 'min(startRoom + cutBack, 0.45 * length)',
		end: 'min(endRoom + cutBack, 0.45 * length)'
	}
] satisfies KitInput['steps'];
const bar = { kind: 'bar', name: 'mullion', role: 'mullion', material: 'finish', line: 'axis' } as const;

const MULLION: KitInput = {
	id: 'mullion',
	name: 'Rectangular mullion',
	help: 'A hollow box section behind the edges, cut back at the nodes',
	host: { ...edges, section: 'width' },
	parameters: [
		length('width', 'Width', 60, 5, 500),
		length('depth', 'Depth', 150, 5, 1000),
		wall(3),
		length('behind', 'Behind the face', 0, -500, 2000),
		cutBack,
		finish
	],
	steps: [
		...run,
		{
			...bar,
			profile: 'hollow',
			width: 'width',
			depth: 'depth',
			wall: wallWithin('width', 'depth'),
			lies: 'inside',
			out: '-behind'
		}
	]
};

const MITRED: KitInput = {
	id: 'mitred-mullion',
	name: 'Mitred mullion',
	help: 'A hollow box section behind the edges, each end cut halfway to its neighbours so that all close at the nodes',
	host: { ...edges, section: 'width' },
	parameters: [
		length('width', 'Width', 60, 5, 500),
		length('depth', 'Depth', 150, 5, 1000),
		wall(3),
		length('behind', 'Behind the face', 0, -500, 2000),
		length('gap', 'Gap at nodes', 0, 0, 200, { help: 'At each end, along the bar, such as for a weld' }),
		finish
	],
	steps: [
		{ kind: 'outline', name: 'edge' },
		{
			...bar,
			line: 'edge',
			profile: 'hollow',
			width: 'width',
			depth: 'depth',
			wall: wallWithin('width', 'depth'),
			lies: 'inside',
			out: '-behind',
			ends: 'mitred',
			start: '-gap',
			end: '-gap'
		}
	]
};

const CORNER: KitInput = {
	id: 'corner-mullion',
	name: 'Corner mullion',
	help: 'A hollow box section along the corner of two faces, turned halfway between both and just behind them',
	host: { ...edges, section: 'width' },
	parameters: [
		length('width', 'Width', 120, 5, 500),
		length('depth', 'Depth', 120, 5, 1000),
		wall(4),
		length('behind', 'Behind the corner', 0, -500, 2000, { help: 'Beyond what keeps it behind both faces' }),
		cutBack,
		finish
	],
	steps: [
		...run,
		{ kind: 'value', name: 'half', quantity: 'angle', value: 'faceTurn / 2' },
		{
			kind: 'value',
			name: 'back',
			quantity: 'length',
			// To its middle. At a ridge its outer corners lie on both faces; in a valley its outer side touches the edge.
			value: 'behind + depth / 2 + (faceAngle < 180 deg ? min(width, width / 2 * tan(abs(half))) : 0 mm)'
		},
		{
			...bar,
			profile: 'hollow',
			width: 'width',
			depth: 'depth',
			wall: wallWithin('width', 'depth'),
			across: 'back * sin(half)',
			out: '-back * cos(half)',
			turn: 'half'
		}
	]
};

const TEE: KitInput = {
	id: 'tee-mullion',
	name: 'T mullion',
	help: 'A T section, its flange to the outside',
	host: { ...edges, section: 'width' },
	parameters: [
		length('width', 'Flange', 80, 10, 500),
		length('depth', 'Depth', 120, 10, 1000),
		length('wall', 'Wall', 10, 2, 100),
		length('behind', 'Behind the face', 0, -500, 2000),
		cutBack,
		material('finish', 'Material', 'steel')
	],
	steps: [
		...run,
		{
			...bar,
			profile: 'tee',
			width: 'width',
			depth: 'depth',
			wall: 'wall',
			lies: 'inside',
			out: '-behind'
		}
	]
};

const ROUND: KitInput = {
	id: 'round-mullion',
	name: 'Round mullion',
	help: 'A round tube behind the edges',
	host: { ...edges, section: 'diameter' },
	parameters: [
		length('diameter', 'Diameter', 76, 5, 600),
		length('wall', 'Wall', 6, 1, 100),
		length('behind', 'Behind the face', 40, -500, 2000, { help: 'Of its middle' }),
		cutBack,
		material('finish', 'Material', 'steel')
	],
	steps: [
		...run,
		{
			...bar,
			profile: 'tube',
			width: 'diameter',
			wall: 'wall',
			out: '-behind'
		}
	]
};

const JOINED: KitInput = {
	id: 'joined-frame',
	name: 'Joined round frame',
	help: 'Round bars behind the edges that flow into each other at the nodes: one closed body, as cast or printed',
	host: edges,
	parameters: [
		length('radius', 'Radius', 45, 2, 500),
		ratio('softness', 'Softness', 0.5, 0, 2, { help: 'How far bars flow into each other at nodes, of the radius' }),
		length('behind', 'Behind the face', 150, -2000, 5000, { help: 'Of its middle, along the normals of the nodes' }),
		length('deviation', 'Deviation', 1, 0.01, 50, { help: 'How far facets may lie within the round surface in files' }),
		material('finish', 'Material', 'steel')
	],
	steps: [
		{ kind: 'outline', name: 'edge' },
		{ kind: 'lift', name: 'axis', of: 'edge', distance: '-behind', towards: 'corners' },
		{
			kind: 'joined',
			name: 'frame',
			role: 'rod',
			material: 'finish',
			line: 'axis',
			radius: 'radius',
			softness: 'softness',
			deviation: 'deviation'
		}
	]
};

const NODE_DISC: KitInput = {
	id: 'node-disc',
	name: 'Node disc and ball',
	help: 'A disc on the outside and a ball behind it, at every node',
	host: { kind: 'node', section: 'ball' },
	parameters: [
		length('disc', 'Disc diameter', 140, 10, 1000),
		length('plate', 'Disc thickness', 12, 1, 200),
		length('ball', 'Ball diameter', 110, 10, 1000),
		length('behind', 'Ball behind', 60, -1000, 1000)
	],
	steps: [
		{ kind: 'corner', name: 'node', corner: 0 },
		{ kind: 'lift', name: 'back', of: 'node', distance: 'behind', towards: 'inside' },
		{ kind: 'cylinder', name: 'discBody', along: 'node', radius: 'disc / 2', thickness: 'plate', pieces: 16 },
		{ kind: 'ball', name: 'ballBody', at: 'back', radius: 'ball / 2', pieces: 12 },
		{ kind: 'solid', name: 'discs', role: 'connector', material: 'stainless', body: 'discBody' },
		{ kind: 'solid', name: 'balls', role: 'connector', material: 'steel', body: 'ballBody' }
	]
};

const SPIDER: KitInput = {
	id: 'spider-bracket',
	name: 'Spider bracket',
	help: 'An arm towards each of the panes that meet at a node, with a fixing at its end',
	host: { kind: 'node', nodes: 'inside' },
	parameters: [
		length('reach', 'Reach', 160, 20, 1000, { help: 'From the node to a fixing' }),
		length('behind', 'Behind the face', 90, 10, 1000),
		length('arm', 'Arm diameter', 28, 5, 200),
		length('fixing', 'Fixing diameter', 60, 10, 300)
	],
	steps: [
		{ kind: 'outline', name: 'around' },
		{ kind: 'corner', name: 'node', corner: 0 },
		{ kind: 'lift', name: 'hub', of: 'node', distance: 'behind', towards: 'inside' },
		{ kind: 'ball', name: 'hubBody', at: 'hub', radius: 'arm', pieces: 12 },
		{ kind: 'solid', name: 'hubs', role: 'connector', material: 'stainless', body: 'hubBody' },
		{ kind: 'each', name: 'arms', of: 'around', what: 'gaps', from: 'node' },
		{ kind: 'outline', name: 'way', on: 'arms' },
		{ kind: 'corner', name: 'base', on: 'arms', corner: 1 },
		{ kind: 'lift', name: 'start', on: 'arms', of: 'base', distance: 'behind', towards: 'inside' },
		{ kind: 'along', name: 'end', on: 'arms', of: 'way', by: 'distance', at: 'reach' },
		{ kind: 'line', name: 'armLine', on: 'arms', through: ['start', 'end'] },
		{
			kind: 'bar',
			name: 'armBars',
			on: 'arms',
			role: 'connector',
			material: 'stainless',
			line: 'armLine',
			profile: 'round',
			width: 'arm'
		},
		{ kind: 'cylinder', name: 'fixingBody', on: 'arms', along: 'end', radius: 'fixing / 2', thickness: 16, pieces: 12 },
		{ kind: 'solid', name: 'fixings', on: 'arms', role: 'connector', material: 'stainless', body: 'fixingBody' }
	]
};

const PATH_TUBE: KitInput = {
	id: 'path-tube',
	name: 'Tube through a path',
	help: 'A tube bent smoothly through a chain of nodes',
	host: { kind: 'path', along: 'across', every: 1 },
	parameters: [
		length('diameter', 'Diameter', 90, 5, 1000),
		length('wall', 'Wall', 6, 1, 100),
		length('off', 'Off the face', 200, -5000, 5000),
		material('finish', 'Material', 'steel')
	],
	steps: [
		...AWAY,
		{ kind: 'line', name: 'axis', through: ['away'], shape: 'smooth', pieces: 4 },
		{
			kind: 'bar',
			name: 'tube',
			role: 'rod',
			material: 'finish',
			line: 'axis',
			profile: 'tube',
			width: 'diameter',
			wall: 'wall'
		}
	]
};

const RODS: KitInput = {
	id: 'rods',
	name: 'Rods along a path',
	help: 'Rods of one length, each in the middle of its spacing, along a chain of nodes',
	host: { kind: 'path', along: 'up', every: 1 },
	parameters: [
		length('spacing', 'Spacing at most', 250, 20, 5000),
		length('rod', 'Rod length', 200, 5, 5000),
		length('diameter', 'Diameter', 20, 2, 500),
		length('off', 'Off the face', 150, -5000, 5000),
		count('least', 'Rods at least', 1, 1, 1000),
		material('finish', 'Material', 'stainless')
	],
	steps: [
		...AWAY,
		{ kind: 'value', name: 'bays', quantity: 'count', value: 'max(least, ceil(length(away) / spacing))' },
		{ kind: 'repeat', name: 'bay', of: 'away', amount: 'bays' },
		{ kind: 'outline', name: 'span', on: 'bay' },
		{ kind: 'fixed', name: 'axis', on: 'bay', of: 'span', length: 'rod' },
		{
			kind: 'bar',
			name: 'rods',
			on: 'bay',
			role: 'rod',
			material: 'finish',
			line: 'axis',
			profile: 'round',
			width: 'diameter'
		}
	]
};

/** Kits for edges, nodes and paths. */
export const MEMBERS = [MULLION, CORNER, MITRED, TEE, ROUND, JOINED, NODE_DISC, SPIDER, PATH_TUBE, RODS];
