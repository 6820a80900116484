import type { FlatPoint } from '../stage/flatScene.ts';
import type { PickRay } from '../stage/spacePointer.ts';
import type { FlatLine } from './fieldPoints.svelte.ts';
import type { Workspace } from './workspace.svelte.ts';

/** The open path on the developed view: seen, and given points there. */
export class PathPoints {
	lines = $state.raw<readonly FlatLine[]>([]);
	private readonly work: Workspace;
	/** Where a shortest way that is being clicked begins. */
	private first: FlatPoint | undefined;

	constructor(work: Workspace) {
		this.work = work;
	}

	/** Lays the open path flat anew: the first of its copies. */
	async refresh(): Promise<void> {
		const { openPath, runner, face } = this.work;
		const view = face.view;
		const origin = runner.view?.origin;
		const k = openPath && view ? view.drawn.ids.indexOf(openPath.id) : -1;
		if (k < 0 || !view || !origin) return void (this.lines = []);
		const { start, points, closed } = view.drawn;
		const space = Array.from({ length: start[k + 1]! - start[k]! }, (_, p) => {
			const o = (start[k]! + p) * 3;
			return [points[o]! + origin[0], points[o + 1]! + origin[1], points[o + 2]! + origin[2]] as const;
		});
		const flat = await runner.ask((api) => api.flatOf(view.key, space));
		if (flat && this.work.openPath?.id === openPath?.id && face.view === view)
			this.lines = piecesOf(space, flat, closed[k] === 1);
	}

	/** Whether clicks give points to the open path. */
	get drawing(): boolean {
		const { flat, openPath } = this.work;
		return openPath !== undefined && flat.tool === 'line' && flat.lineFor === 'path';
	}

	/** Takes a click on the model into the open path, point after point; answers what is wrong with it. */
	async click({ origin, direction }: PickRay): Promise<string | undefined> {
		const { openPath: path, runner, editor, project, flat } = this.work;
		const place = await runner.ask((api) => api.pickPlace(origin, direction));
		if (!path || !place) return undefined;
		if (place.key !== path.face) return `${path.name} lies on another face; right would be a place on that one.`;
		const { kind } = path.source;
		const first = this.first;
		this.first = undefined;
		if (kind === 'geodesic' && !first) return void (this.first = place.flat);
		if (kind === 'geodesic' || kind === 'cut') {
			flat.tool = 'select';
			return this.draw([...(first ? [first] : []), place.flat]);
		}
		if (kind === 'traced') flat.tool = 'select';
		const k = project.paths.findIndex((p) => p.id === path.id);
		return editor.commit('Draw a path', (draft) => {
			const { source } = draft.paths[k]!;
			if (source.kind === 'picked' && place.node) source.nodes.push(place.node);
			if (source.kind === 'traced' && place.node) source.from = place.node;
			if (source.kind === 'curve') source.points.push([...place.flat]);
			if (source.kind === 'free') source.points.push([...place.point]);
		});
	}

	/** Takes clicked places into the open path; answers what is wrong with them. */
	async draw(places: readonly FlatPoint[]): Promise<string | undefined> {
		const { openPath: path, runner, editor, project } = this.work;
		if (!path) return undefined;
		const k = project.paths.findIndex((p) => p.id === path.id);
		const { kind } = path.source;
		const change = (edit: (source: (typeof project.paths)[number]['source']) => void) =>
			editor.commit('Draw a path', (draft) => edit(draft.paths[k]!.source));
		if (kind === 'picked' || kind === 'traced') {
			const keys = (await runner.ask((api) => api.nodeKeys(path.face, places)))?.flatMap((key) => (key ? [key] : []));
			if (!keys?.length) return 'There is no node; right would be a place on this face.';
			return change((source) => {
				if (source.kind === 'picked') source.nodes = [...source.nodes, ...keys];
				if (source.kind === 'traced') source.from = keys[0]!;
			});
		}
		if (kind === 'geodesic' || kind === 'curve')
			return change((source) => {
				if (source.kind === 'curve') source.points = places.map(([x, y]) => [x, y]);
				if (source.kind === 'geodesic')
					[source.from, source.to] = places.map(([x, y]) => [x, y]) as [[number, number], [number, number]];
			});
		const found = await Promise.all(places.map(([x, y]) => runner.ask((api) => api.onFace(path.face, x, y))));
		const off = found.findIndex((p) => !p);
		if (off >= 0) return `Point ${off + 1} is not on this face; right would be a place within its border.`;
		const space = found.map((p) => [p![0], p![1], p![2]] as [number, number, number]);
		return change((source) => {
			if (source.kind === 'cut') source.point = space[0]!;
			if (source.kind === 'free') source.points = space;
		});
	}
}

type Space = readonly [number, number, number];

/** A chain as it lies flat, parted where it goes on over a seam: there its ends are far from each other on the flat face alone. */
function piecesOf(space: readonly Space[], flat: readonly FlatPoint[], closed: boolean): FlatLine[] {
	const near = (a: number, b: number) =>
		Math.hypot(flat[a]![0] - flat[b]![0], flat[a]![1] - flat[b]![1]) <
		2 * Math.hypot(...[0, 1, 2].map((c) => space[a]![c]! - space[b]![c]!)) + SEAM_MM;
	const breaks = flat.flatMap((_, k) => (k > 0 && !near(k - 1, k) ? [k] : []));
	return [0, ...breaks].map((from, k, all) => ({
		points: flat.slice(from, all[k + 1]),
		joined: true,
		closed: closed && breaks.length === 0 && near(flat.length - 1, 0),
		numberedFrom: from + 1
	}));
}

/** Points of a chain that lie farther apart on the flat face than in space by more than this, mm, lie on two sides of a seam. */
const SEAM_MM = 1000;
