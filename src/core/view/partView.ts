import type { Material } from '../project/schema.ts';
import type { PartTable } from '../schedule/parts.ts';

/** The table of parts of a face as it is shown: what a part looks like is left out, and materials have their names. */
export type PartView = Pick<PartTable, 'count' | 'hostTable' | 'host' | 'words' | 'columns'>;

/** The same columns, not copies. */
export function viewParts(table: PartTable, materials: readonly Pick<Material, 'id' | 'name'>[]): PartView {
	const { count, hostTable, host, columns } = table;
	const names = new Map(materials.map((m) => [m.id, m.name]));
	const { material, ...words } = table.words;
	const named = { words: material!.words.map((id) => names.get(id) ?? id), index: material!.index };
	return { count, hostTable, host, words: { ...words, material: named }, columns };
}
