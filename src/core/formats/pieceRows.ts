import type { FaceModel } from '../project/faceResult.ts';
import type { Model } from '../project/pipeline.ts';
import { ruleNames } from '../project/ruleNames.ts';
import type { Project } from '../project/schema.ts';
import { HOST_TABLES, HOST_WORDS, type FaceSchedule } from '../schedule/faceTable.ts';
import { markOfPart, partsOf, pieceMarks, type PartTable } from '../schedule/parts.ts';
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
	/** Empty for a bar of a joined body, which is one of a kind, and for what is not scheduled. */
	readonly type: string;
	/** Of the cell that its host is named by, counted from 1; nothing of paths. */
	readonly row?: number;
	readonly column?: number;
	/** Of node pieces: marks of the edges that they hold. */
	readonly towards: string;
}

/** Row and column of the host's cell, as its table has them. */
function placeOf({ tables }: FaceSchedule, { hostTable, host }: PartTable, r: number) {
	const { row, column } = tables[HOST_TABLES[hostTable[r]!]!].columns;
	return row && column ? { row: row[host[r]!]!, column: column[host[r]!]! } : {};
}

/**
 * Goes through every piece of a model that is scheduled, or (`allPartsOf`) through all, in the order of its tables of parts. A
 * piece's mark is that of what it stands on, the part, and a number where there are several of that name there. O(pieces).
 */
export function eachPiece(
	project: Project,
	{ faces }: Model,
	visit: (words: PieceWords, table: PartTable, row: number, face: number) => void,
	tableOf: (face: FaceModel) => PartTable = partsOf
): void {
	const rules = ruleNames(project);
	const materials = new Map(project.materials.map((m) => [m.id, m.name]));
	const { types, typeOf } = typesOf(faces, project.types);
	faces.forEach((face, f) => {
		const table = tableOf(face);
		const { words } = table;
		const marks = pieceMarks(face);
		for (let r = 0; r < table.count; r++) {
			const { placement, kit } = table.parts[table.part[r]!]!;
			const word = (of: 'part' | 'role' | 'material' | 'towards') => words[of]!.words[words[of]!.index[r]!]!;
			const hostMark = markOfPart(face.schedule, table, r);
			const type = typeOf[f]![r] ?? NO_TYPE;
			visit(
				{
					mark: marks[r]!,
					hostKind: HOST_WORDS[HOST_TABLES[table.hostTable[r]!]!],
					hostMark,
					face: face.name,
					rule: rules.get(placement.rule) ?? '',
					kit: kit.name,
					part: word('part'),
					role: word('role'),
					material: materials.get(word('material')) ?? word('material'),
					type: type === NO_TYPE ? '' : types[type]!.mark,
					...placeOf(face.schedule, table, r),
					towards: word('towards')
				},
				table,
				r,
				f
			);
		}
	});
}
