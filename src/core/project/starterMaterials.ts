import type { Material } from './schema.ts';

/**
 * The materials that starter kits name. Densities: EN 572-1, EN 1999-1-1, EN 1993-1-1 and EN 10088-1 (from memory);
 * of larch and of glazed ceramic as is usual in practice.
 */
export const STARTER_MATERIALS: readonly Material[] = [
	{ id: 'glass', name: 'Glass', density: 2500, colour: '#8FB8C4', opacity: 0.6 },
	{ id: 'aluminium', name: 'Aluminium', density: 2700, colour: '#8C9296', opacity: 1 },
	{ id: 'steel', name: 'Steel', density: 7850, colour: '#5E676C', opacity: 1 },
	{ id: 'stainless', name: 'Stainless steel', density: 7900, colour: '#A9B0B2', opacity: 1 },
	{ id: 'timber', name: 'Larch', density: 590, colour: '#B08A5E', opacity: 1 },
	{ id: 'ceramic', name: 'Ceramic', density: 2100, colour: '#C9B8A4', opacity: 1 }
];
