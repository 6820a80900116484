export const FORMATS = [
	'json',
	'csv',
	'edges',
	'nodes',
	'paths',
	'bays',
	'parts',
	'corners',
	'cutlist',
	'quantities',
	'tables',
	'xlsx',
	'rows',
	'ifc',
	'glb',
	'obj',
	'stl',
	'ply',
	'3mf',
	'step',
	'space',
	'dxf',
	'svg',
	'cuts',
	'cutsvg',
	'pdf',
	'summary',
	'set'
] as const;
export type Format = (typeof FORMATS)[number];

export const isFormat = (text: unknown): text is Format => FORMATS.some((f) => f === text);
