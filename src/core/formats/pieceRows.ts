import type { Model } from '../project/pipeline.ts';
import { ruleNames } from '../project/ruleNames.ts';
import type { Project } from '../project/schema.ts';
import { HOST_TABLES } from '../schedule/faceTable.ts';
import { markOfPart, partsOf, type PartTable } from '../schedule/parts.ts';
import { NO_TYPE, typesOf } from '../schedule/types/pieceTypes.ts';

/** What stands in the row of a piece, besides its figures. */
export interface PieceWords {
	/** Its own: no other piece has it. */
	readonly mark: string;
	readonly hostKind: string;
	readonly hostMark: string;
	readonly face: string;
	readonly rule: string;
	readonly kit: string;
	readonly part: string;
	readonly role: string;
	readonly material: string;
	/** Empty for a bar of a joined body, which is one of a kind. */
	readonly type: string;
}

/** What a host is called. */
export const HOST_WORDS = { panels: 'cell', edges: 'edge', nodes: 'node', paths: 'path' } as const;

/**
 * Goes through every piece of a model in the order of its tables of parts. A piece's mark is that of what it stands on, the
 * part, and a number where there are several of that name there. O(pieces).
 */
export function eachPiece(
	project: Project,
	{ faces }: Model,
	visit: (words: PieceWords, table: PartTable, row: number, face: number) => void
): void {
	const rules = ruleNames(project);
	const materials = new Map(project.materials.map((m) => [m.id, m.name]));
	const { types, typeOf } = typesOf(faces);
	faces.forEach((face, f) => {
		const table = partsOf(face);
		const { words } = table;
		const named = table.parts.map(({ part }) => part.name);
		const nameOf = (r: number) => `${table.hostTable[r]} ${table.host[r]} ${named[table.part[r]!]}`;
		const counts = new Map<string, number>();
		for (let r = 0; r < table.count; r++) counts.set(nameOf(r), (counts.get(nameOf(r)) ?? 0) + 1);
		const soFar = new Map<string, number>();
		for (let r = 0; r < table.count; r++) {
			const name = nameOf(r);
			const number = (soFar.get(name) ?? 0) + 1;
			soFar.set(name, number);
			const { placement, kit } = table.parts[table.part[r]!]!;
			const word = (of: 'part' | 'role' | 'material') => words[of]!.words[words[of]!.index[r]!]!;
			const hostMark = markOfPart(face.schedule, table, r);
			const type = typeOf[f]![r]!;
			visit(
				{
					mark: `${hostMark}:${named[table.part[r]!]}${counts.get(name)! > 1 ? `.${number}` : ''}`,
					hostKind: HOST_WORDS[HOST_TABLES[table.hostTable[r]!]!],
					hostMark,
					face: face.name,
					rule: rules.get(placement.rule) ?? '',
					kit: kit.name,
					part: word('part'),
					role: word('role'),
					material: materials.get(word('material')) ?? word('material'),
					type: type === NO_TYPE ? '' : types[type]!.mark
				},
				table,
				r,
				f
			);
		}
	});
}
