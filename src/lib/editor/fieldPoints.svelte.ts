import type { FlatPoint } from '../stage/flatScene.ts';
import type { Workspace } from './workspace.svelte.ts';

/** The points of one line of a field, laid flat. */
export interface FlatLine {
	readonly points: readonly FlatPoint[];
	readonly joined: boolean;
	readonly closed: boolean;
	/** Number of its first point, where they are numbered instead of dragged. */
	readonly numberedFrom?: number;
}

/** The points of the open field on the developed view: shown, dragged and drawn there. */
export class FieldPoints {
	lines = $state.raw<readonly FlatLine[]>([]);
	private readonly work: Workspace;
	/** Where a dragged point is to go next, while the face is asked where that is. */
	private next: { readonly k: number; readonly at: FlatPoint; readonly done: boolean } | undefined;
	private busy = false;

	constructor(work: Workspace) {
		this.work = work;
	}

	private get lists() {
		const source = this.work.openField?.source;
		return source?.kind === 'distance' ? source.to : [];
	}

	/** Lays the points flat anew. */
	async refresh(): Promise<void> {
		const { runner, face } = this.work;
		const lists = this.lists;
		const key = face.current?.key;
		if (!lists.length || !key) return void (this.lines = []);
		const flat = await runner.ask((api) =>
			api.flatOf(
				key,
				lists.flatMap((l) => l.points)
			)
		);
		if (!flat || this.lists !== lists) return;
		let k = 0;
		this.lines = lists.map(({ kind, points, closed }) => ({
			points: points.map(() => flat[k++]!),
			joined: kind !== 'points',
			closed
		}));
	}

	/** The point within a distance, mm, counted through all lines. */
	at([x, y]: FlatPoint, within: number): number | undefined {
		const all = this.lines.flatMap((l) => l.points);
		const k = all.findIndex(([px, py]) => Math.hypot(px - x, py - y) <= within);
		return k < 0 ? undefined : k;
	}

	/** Drags a point; the newest place wins. */
	async move(k: number, at: FlatPoint, done: boolean): Promise<void> {
		this.next = { k, at, done };
		if (this.busy) return;
		this.busy = true;
		while (this.next) {
			const { k: point, at: place, done: last } = this.next;
			this.next = undefined;
			const [found] = await this.inSpace([place]);
			if (found)
				this.change(last ? 'Move points of a field' : undefined, (lists) => {
					let s = 0;
					let p = point;
					while (p >= lists[s]!.points.length) p -= lists[s++]!.points.length;
					lists[s]!.points[p] = found;
				});
			else if (last) this.work.editor.revert();
		}
		this.busy = false;
	}

	/** Puts a drawn line in the place of one of the field's; answers what is wrong with it. */
	async draw(s: number, points: readonly FlatPoint[]): Promise<string | undefined> {
		const found = await this.inSpace(points);
		const off = found.findIndex((p) => !p);
		if (off >= 0) return `Point ${off + 1} of the line is not on this face; right would be points within its border.`;
		return this.change('Draw a line of a field', (lists) => (lists[s]!.points = found as [number, number, number][]));
	}

	private inSpace(points: readonly FlatPoint[]): Promise<([number, number, number] | undefined)[]> {
		const { runner, face } = this.work;
		const key = face.current!.key;
		return Promise.all(
			points.map(async ([x, y]) => {
				const p = await runner.ask((api) => api.onFace(key, x, y));
				return p && [p[0], p[1], p[2]];
			})
		);
	}

	/** Changes the lines of the open field, for good under a label, else as a preview. */
	private change(
		label: string | undefined,
		change: (lists: { kind: string; points: [number, number, number][] }[]) => void
	): string | undefined {
		const { editor, openField, project } = this.work;
		const k = project.fields.findIndex((f) => f.id === openField?.id);
		const edit = (draft: typeof project) => {
			const source = draft.fields[k]?.source;
			if (source?.kind === 'distance') change(source.to);
		};
		return label === undefined ? editor.preview(edit) : editor.commit(label, edit);
	}
}
