import { NO_CELL } from '../../core/tiling/cells.ts';
import { cellsAround, edgeOwner, nodeOwner } from '../../core/tiling/marks.ts';
import type { HostKind } from '../../core/kit/hosts.ts';
import type { RuleSet } from '../../core/placement/rules/schema.ts';
import type { FaceView } from '../../core/view/faceView.ts';
import type { ModelView } from '../../core/view/modelView.ts';
import type { CellAddress } from '../stage/spaceView.ts';
import type { HandCell } from './byHand.ts';
import { keyOf } from './cellKeys.ts';

/** Which edges or nodes of chosen cells are meant. */
export const HOST_WAYS = {
	cell: { all: 'the cells' },
	edge: { all: 'all their sides', between: 'sides between them', around: 'sides around them' },
	node: { all: 'all their corners', shared: 'corners that all share' }
} as const;
export type HandKind = keyof typeof HOST_WAYS;

/** A host of a face, and how it is known when things change. */
export interface HandHost {
	readonly face: number;
	readonly host: number;
	readonly key: HandCell;
}

export const isHandKind = (host: RuleSet['host']): host is HandKind => Object.hasOwn(HOST_WAYS, host);

/** Hosts of a kind that chosen cells are, have around them, or share. O(cells + edges) of their faces. */
export function handHosts(view: ModelView, chosen: readonly CellAddress[], kind: HandKind, way: string): HandHost[] {
	if (kind === 'cell') return chosen.map((a) => ({ face: a.face, host: a.cell, key: keyOf(view, a) }));
	return [...new Set(chosen.map((a) => a.face))].flatMap((index) => {
		const face = view.faces[index]!;
		const cells = new Set(chosen.filter((a) => a.face === index).map((a) => a.cell));
		const owned = kind === 'edge' ? edgesOf(face, cells, way) : nodesOf(face, cells, way);
		return owned.map(({ host, cell, at }) => ({
			face: index,
			host,
			key: { ...keyOf(view, { face: index, cell }), at }
		}));
	});
}

interface Owned {
	readonly host: number;
	readonly cell: number;
	readonly at: number;
}

function edgesOf(face: FaceView, cells: ReadonlySet<number>, way: string): Owned[] {
	const found: Owned[] = [];
	for (let e = 0; e < face.edgeCount; e++) {
		const beside = [face.edgeCells[e * 2]!, face.edgeCells[e * 2 + 1]!].filter((c) => c !== NO_CELL && cells.has(c));
		if (way === 'between' ? beside.length === 2 : way === 'around' ? beside.length === 1 : beside.length > 0)
			found.push({ host: e, ...edgeOwner(face, e) });
	}
	return found;
}

function nodesOf(face: FaceView, cells: ReadonlySet<number>, way: string): Owned[] {
	const nodes = new Set<number>();
	for (const c of cells)
		for (let k = face.cornerStart[c]!; k < face.cornerStart[c + 1]!; k++)
			if (face.round?.[k] !== 1) nodes.add(face.corners[k]!);
	return [...cellsAround(face, nodes)]
		.filter(([, around]) => way !== 'shared' || [...cells].every((c) => around.includes(c)))
		.map(([host, around]) => ({ host, ...nodeOwner(face, host, around) }));
}

/** How a host of a face is known when things change; nothing of paths and bays, which are not set by hand. */
export function handKeyOf(view: ModelView, face: number, kind: HostKind, host: number): HandCell | undefined {
	const of = view.faces[face];
	if (!of || kind === 'path' || kind === 'bay') return undefined;
	if (kind === 'cell' || kind === 'box') return keyOf(view, { face, cell: host });
	const { cell, at } =
		kind === 'edge' ? edgeOwner(of, host) : nodeOwner(of, host, cellsAround(of, new Set([host])).get(host) ?? []);
	return { ...keyOf(view, { face, cell }), at };
}
