import type { Shape } from '../../core/mass/shapes.ts';
import type { Quantity } from '../../core/units/quantity.ts';
import type { Path } from './paths.ts';

/** What a drawn line's axes mean. */
export type DrawingPlane = 'plan' | 'section' | 'radius';

/** One control of a shape's settings; paths start at the shape. */
export type FormItem =
	| {
			readonly kind: 'number';
			readonly path: Path;
			readonly label: string;
			readonly quantity: Quantity;
			readonly help: string;
			readonly step?: number;
	  }
	| {
			readonly kind: 'height';
			readonly path: Path;
			readonly label: string;
			readonly help: string;
			readonly optional?: string;
	  }
	| {
			readonly kind: 'choice';
			readonly path: Path;
			readonly label: string;
			readonly help: string;
			readonly options: readonly (readonly [value: unknown, label: string])[];
	  }
	| { readonly kind: 'switch'; readonly path: Path; readonly label: string; readonly help: string }
	| {
			readonly kind: 'profile';
			readonly path: Path;
			readonly label: string;
			readonly plane: DrawingPlane;
			readonly closed?: boolean;
	  }
	| {
			readonly kind: 'list';
			readonly path: Path;
			readonly label: string;
			readonly one: string;
			/** Whether elements can be added and removed: all but the first and last, all, or none. */
			readonly grows: 'between' | 'anywhere' | 'never';
			readonly items: (k: number, count: number) => FormItem[];
	  }
	| { readonly kind: 'net'; readonly path: Path };

const number = (path: Path, label: string, help: string, quantity: Quantity = 'length', step = 100): FormItem => ({
	kind: 'number',
	path,
	label,
	quantity,
	help,
	...(quantity === 'length' ? { step } : {})
});
const height = (path: Path, label: string, help: string, optional?: string): FormItem => ({
	kind: 'height',
	path,
	label,
	help,
	...(optional ? { optional } : {})
});
/** The coordinates of a point. */
export const POINT_ITEMS: FormItem[] = [
	number(['x'], 'East', 'Along x'),
	number(['y'], 'North', 'Along y'),
	height(['z'], 'Height', 'Above the ground of the mass')
];

const points = (path: Path, label: string, grows: 'anywhere' | 'never'): FormItem => ({
	kind: 'list',
	path,
	label,
	one: 'point',
	grows,
	items: () => POINT_ITEMS
});

const ALONG = [
	['smooth', 'Smooth'],
	['straight', 'Straight']
] as const;

const roof: FormItem = {
	kind: 'choice',
	path: ['roof'],
	label: 'Roof',
	help: 'A flat one closes it above',
	options: [
		['open', 'Open'],
		['flat', 'Flat']
	]
};
const along = (help: string): FormItem => ({ kind: 'choice', path: ['along'], label: 'Runs', help, options: ALONG });

/** The settings of each kind of shape, in the order in which they are shown. */
const FORMS: { readonly [K in Shape['kind']]: (shape: Extract<Shape, { kind: K }>) => FormItem[] } = {
	vault: () => [
		number(['length'], 'Length', 'From the first section to the last'),
		{
			kind: 'list',
			path: ['sections'],
			label: 'Sections along the vault',
			one: 'section',
			grows: 'between',
			items: (k, count) => [
				...(k > 0 && k < count - 1
					? [number(['at'], 'Place', 'Share of the length from the first section', 'ratio')]
					: []),
				number(['span'], 'Span', 'Distance between the two feet'),
				number(['rise'], 'Rise', 'Crown above the line between the feet'),
				number(['lean'], 'Lean', 'Sideways shift of the crown'),
				number(['shift'], 'Shift', 'Sideways shift of the whole section'),
				height(['startHeight'], 'Start foot', 'Height of the first foot'),
				height(['endHeight'], 'End foot', 'Height of the second foot')
			]
		}
	],
	loft: () => [
		along('How the face runs from section to section'),
		roof,
		{
			kind: 'list',
			path: ['sections'],
			label: 'Sections, from below',
			one: 'section',
			grows: 'anywhere',
			items: () => [
				height(['height'], 'Height', 'Where the section lies'),
				{ kind: 'profile', path: ['profile'], label: 'Profile', plane: 'plan' },
				number(['scaleX'], 'Scale east', 'Size from west to east', 'ratio'),
				number(['scaleY'], 'Scale north', 'Size from south to north', 'ratio'),
				number(['turn'], 'Turn', 'Anticlockwise seen from above', 'angle'),
				number(['shiftX'], 'Shift east', 'Moves the section'),
				number(['shiftY'], 'Shift north', 'Moves the section')
			]
		}
	],
	tower: () => [
		{ kind: 'profile', path: ['footprint'], label: 'Footprint', plane: 'plan' },
		height(['base'], 'Base', 'Height of the footprint'),
		height(['top'], 'Top', 'Height of the top'),
		along('How taper and twist run over the height'),
		roof,
		{
			kind: 'list',
			path: ['stations'],
			label: 'Taper and twist, from below',
			one: 'station',
			grows: 'between',
			items: (k, count) => [
				...(k > 0 && k < count - 1 ? [number(['at'], 'Place', 'Share of the height', 'ratio')] : []),
				number(['scale'], 'Taper', 'Size of the footprint there', 'ratio'),
				number(['turn'], 'Twist', 'Anticlockwise seen from above', 'angle')
			]
		}
	],
	block: ({ rise, roof }) => [
		{ kind: 'profile', path: ['footprint'], label: 'Footprint', plane: 'plan', closed: true },
		height(['base'], 'Base', 'Height of the footprint'),
		{
			kind: 'choice',
			path: ['rise'],
			label: 'Rises by',
			help: 'Storeys of one height, or up to a height',
			options: [
				[{ kind: 'storeys', count: 3, each: 3600 }, 'Storeys'],
				[{ kind: 'top', height: 10_800 }, 'Up to a height']
			]
		},
		...(rise.kind === 'storeys'
			? [
					number(['rise', 'count'], 'Storeys', 'How many', 'count'),
					number(['rise', 'each'], 'Storey height', 'From floor to floor')
				]
			: [height(['rise', 'height'], 'Top', 'Height of the walls')]),
		{
			kind: 'choice',
			path: ['roof'],
			label: 'Roof',
			help: 'Flat, or sloping from every wall',
			options: [
				[{ kind: 'open' }, 'Open'],
				[{ kind: 'flat' }, 'Flat'],
				[{ kind: 'pitched', height: 3000 }, 'Pitched']
			]
		},
		...(roof.kind === 'pitched' ? [number(['roof', 'height'], 'Ridge', 'Above the walls')] : [])
	],
	extrusion: () => [
		{ kind: 'profile', path: ['profile'], label: 'Line in plan', plane: 'plan' },
		height(['base'], 'Base', 'Height of the lower border'),
		height(['top'], 'Top', 'Height of the upper border'),
		number(['leanX'], 'Lean east', 'How far the top stands east of the base'),
		number(['leanY'], 'Lean north', 'How far the top stands north of the base'),
		roof
	],
	revolution: () => [
		{ kind: 'profile', path: ['profile'], label: 'Profile', plane: 'radius' },
		height(['base'], 'Base', 'Height of the profile’s ground line'),
		number(['offset'], 'Offset', 'Distance of the profile from the axis'),
		number(['start'], 'Start', 'Where the sweep starts, anticlockwise from east', 'angle'),
		number(['sweep'], 'Sweep', 'How far it goes round; 360° closes with a seam', 'angle')
	],
	dome: () => [
		number(['radiusX'], 'Radius east', 'Half width from west to east'),
		number(['radiusY'], 'Radius north', 'Half width from south to north'),
		number(['radiusZ'], 'Radius up', 'Half height of the whole ball'),
		height(['centre'], 'Centre', 'Height of the middle of the ball'),
		height(['bottom'], 'Cut below', 'Height where the dome starts'),
		height(['ring'], 'Ring above', 'Height where it ends', 'Closed crown')
	],
	translation: () => [
		{ kind: 'profile', path: ['section'], label: 'Section, looking north', plane: 'section' },
		{ kind: 'profile', path: ['path'], label: 'Path, looking west', plane: 'section' },
		height(['base'], 'Base', 'Height of the ground line of both')
	],
	hypar: () => [points(['corners'], 'Corners', 'never')],
	ruled: () => [
		{
			kind: 'switch',
			path: ['lower', 'smooth'],
			label: 'Lower smooth',
			help: 'A smooth curve through the points instead of straight lines'
		},
		points(['lower', 'points'], 'Lower curve', 'anywhere'),
		{
			kind: 'switch',
			path: ['upper', 'smooth'],
			label: 'Upper smooth',
			help: 'A smooth curve through the points instead of straight lines'
		},
		points(['upper', 'points'], 'Upper curve', 'anywhere')
	],
	'control-net': () => [
		number(['degreeAcross'], 'Degree across', '1 runs straight from point to point, 3 is smooth', 'count'),
		number(['degreeUp'], 'Degree up', '1 runs straight from point to point, 3 is smooth', 'count'),
		{ kind: 'switch', path: ['closedAcross'], label: 'Closed across', help: 'The last column runs on into the first' },
		{ kind: 'switch', path: ['closedUp'], label: 'Closed up', help: 'The last row runs on into the first' },
		{ kind: 'net', path: ['points'] }
	],
	imported: () => []
};

export const formOf = (shape: Shape) => (FORMS[shape.kind] as (shape: Shape) => FormItem[])(shape);
