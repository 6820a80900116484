import type { Shape, ShapeName } from './shapes.ts';

const free = (points: [x: number, y: number, smooth?: boolean][], closed = false) => ({
	kind: 'drawn' as const,
	closed,
	rounding: 0,
	points: points.map(([x, y, smooth = true]) => ({ x, y, smooth, arc: 0 }))
});

const arched = { span: 12_000, rise: 2_400, lean: 0, shift: 0, startHeight: 4_000, endHeight: 4_000 };
const plain = { scaleX: 1, scaleY: 1, turn: 0, shiftX: 0, shiftY: 0 };

/** What a new mass of each kind looks like; brought in ones have a file instead. */
export const PRESETS: { readonly [K in Exclude<ShapeName, 'imported'>]: Extract<Shape, { kind: K }> } = {
	vault: {
		kind: 'vault',
		length: 24_000,
		sections: [
			{ at: 0, ...arched },
			{ at: 1, ...arched }
		]
	},
	loft: {
		kind: 'loft',
		along: 'smooth',
		sections: [
			{ height: 0, profile: { kind: 'rectangle', width: 18_000, depth: 18_000, rounding: 4_000 }, ...plain },
			{ height: 12_000, profile: { kind: 'circle', radius: 7_000 }, ...plain },
			{ height: 24_000, profile: { kind: 'ellipse', radiusX: 9_000, radiusY: 6_000 }, ...plain }
		],
		roof: 'open'
	},
	tower: {
		kind: 'tower',
		footprint: { kind: 'rectangle', width: 20_000, depth: 16_000, rounding: 0 },
		base: 0,
		top: 60_000,
		along: 'smooth',
		stations: [
			{ at: 0, scale: 1, turn: 0 },
			{ at: 1, scale: 0.7, turn: Math.PI / 4 }
		],
		roof: 'open'
	},
	block: {
		kind: 'block',
		footprint: free(
			[
				[0, 0, false],
				[24_000, 0, false],
				[24_000, 14_000, false],
				[0, 14_000, false]
			],
			true
		),
		base: 0,
		rise: { kind: 'storeys', count: 3, each: 3_600 },
		roof: { kind: 'flat' }
	},
	extrusion: {
		kind: 'extrusion',
		profile: free([
			[-15_000, 3_000],
			[-5_000, -1_000],
			[5_000, 1_000],
			[15_000, -3_000]
		]),
		base: 0,
		top: 12_000,
		leanX: 0,
		leanY: -1_500,
		roof: 'open'
	},
	revolution: {
		kind: 'revolution',
		profile: free([
			[6_000, 0],
			[4_000, 9_000],
			[5_500, 18_000]
		]),
		base: 0,
		offset: 0,
		start: 0,
		sweep: 2 * Math.PI
	},
	dome: { kind: 'dome', radiusX: 10_000, radiusY: 10_000, radiusZ: 8_000, centre: 0, bottom: 0, ring: 7_000 },
	translation: {
		kind: 'translation',
		section: free([
			[-9_000, 0],
			[0, 3_000],
			[9_000, 0]
		]),
		path: free([
			[0, 0],
			[15_000, 2_500],
			[30_000, 0]
		]),
		base: 5_000
	},
	hypar: {
		kind: 'hypar',
		corners: [
			{ x: -9_000, y: -9_000, z: 4_000 },
			{ x: 9_000, y: -9_000, z: 9_000 },
			{ x: 9_000, y: 9_000, z: 4_000 },
			{ x: -9_000, y: 9_000, z: 9_000 }
		]
	},
	ruled: {
		kind: 'ruled',
		lower: {
			smooth: true,
			points: [
				{ x: -12_000, y: 0, z: 0 },
				{ x: 0, y: -3_000, z: 0 },
				{ x: 12_000, y: 0, z: 0 }
			]
		},
		upper: {
			smooth: true,
			points: [
				{ x: -12_000, y: 2_000, z: 9_000 },
				{ x: 0, y: 3_000, z: 11_000 },
				{ x: 12_000, y: -1_000, z: 8_000 }
			]
		}
	},
	'control-net': {
		kind: 'control-net',
		degreeAcross: 3,
		degreeUp: 3,
		closedAcross: false,
		closedUp: false,
		points: [0, 1, 2, 3].map((j) =>
			[0, 1, 2, 3].map((i) => ({
				x: (i - 1.5) * 6_000,
				y: (j - 1.5) * 6_000,
				z: 5_000 + (i % 3 === 0 || j % 3 === 0 ? 0 : 4_000)
			}))
		)
	}
};
