import { NO_CELL } from '../../core/tiling/cells.ts';
import { cellMark, cellsAround, edgeMark, nodeMark } from '../../core/tiling/marks.ts';
import type { HostKind } from '../../core/readings/definition.ts';
import type { FaceView } from '../../core/view/faceView.ts';

/** The cells that hosts of a face belong to: themselves, those along an edge, those around a node. O(corners). */
export function cellsOfHosts(face: FaceView, kind: HostKind, hosts: readonly number[]): number[] {
	if (kind === 'cell') return [...hosts];
	const found = new Set<number>();
	if (kind === 'edge')
		for (const e of hosts)
			for (const c of [face.edgeCells[e * 2]!, face.edgeCells[e * 2 + 1]!]) if (c !== NO_CELL) found.add(c);
	if (kind === 'node') for (const [, cells] of cellsAround(face, new Set(hosts))) for (const c of cells) found.add(c);
	return [...found];
}

/** Marks of hosts of a face. O(corners). */
export function hostMarks(face: FaceView, kind: HostKind, hosts: readonly number[]): string[] {
	if (kind === 'cell') return hosts.map((c) => cellMark(face, c));
	if (kind === 'edge') return hosts.map((e) => edgeMark(face, e));
	const around = cellsAround(face, new Set(hosts));
	return hosts.map((n) => nodeMark(face, n, around.get(n) ?? []));
}
