import { norm } from '../elementary/index.ts';
import { GEODESIC_STEP_MM, PARALLEL_SINE, PAST_POLE } from '../tolerances.ts';
import type { Point } from './curve.ts';
import { derivativesIn, panelAt, type Derivatives } from './pointOn.ts';
import type { Surface } from './surface.ts';
import { surfacePatches } from './surfacePatches.ts';
import { cross, dot, minus, plus, scaled } from './vectors.ts';

/** Where a way along a face has come to. */
export interface Ahead {
	readonly u: number;
	readonly v: number;
	/** Times that it has gone over the seam across. */
	readonly turns: number;
	/** Where it has left the face: how much of it was left, mm, and how fast its parameters changed there by a mm. */
	readonly beyond?: { readonly length: number; readonly byU: number; readonly byV: number };
}

/** Steps of a way at most; one right past a pole takes some hundreds. */
const MOST_STEPS = 1000;

/**
 * Walks straight ahead on a face (a geodesic) from one of its points, `x` mm along its row and `y` mm square to that, to
 * the left; nothing where it does not come to its end, as along a border. Over folds it goes on as if the fold was unrolled;
 * it goes over a seam across, and ends at any other border.
 * Source: do Carmo, Differential Geometry of Curves and Surfaces, section 4.4, in Hamilton's form; Runge-Kutta of the
 * fourth order with halved steps (Numerical Recipes, section 17.2).
 */
export function straightAhead(
	surface: Surface,
	closedAcross: boolean,
	from: { readonly u: number; readonly v: number },
	x: number,
	y: number
): Ahead | undefined {
	if (x === 0 && y === 0) return { u: from.u, v: from.v, turns: 0 };
	return (
		new Way(surface, closedAcross, from, x, y).end() ??
		new Way(surface, closedAcross, from, x - PAST_POLE * y, y + PAST_POLE * x).end()
	);
}

/** Parameters, and how fast the way runs along their lines: the products of its direction with du and dv. */
type State = readonly [u: number, v: number, p: number, q: number];

/** The u' and v' of a direction by its products with du and dv. */
function speeds(du: Point, dv: Point, p: number, q: number): [number, number] {
	const [e, f, g] = [dot(du, du), dot(du, dv), dot(dv, dv)];
	const area = e * g - f * f;
	return [(g * p - f * q) / area, (e * q - f * p) / area];
}

class Way {
	private state: State;
	private pu: number;
	private pv: number;
	private turns = 0;
	private left: number;
	private readonly surface: Surface;
	private readonly closed: boolean;
	private readonly us: Float64Array;
	private readonly vs: Float64Array;

	constructor(surface: Surface, closed: boolean, { u, v }: { u: number; v: number }, x: number, y: number) {
		this.surface = surface;
		this.closed = closed;
		({ us: this.us, vs: this.vs } = surfacePatches(surface));
		this.pu = panelAt(this.us, u);
		this.pv = panelAt(this.vs, v);
		this.left = norm([x, y, 0]);
		const { du, dv } = this.derivatives(u, v);
		const along = scaled(du, 1 / norm(du));
		const normal = cross(du, dv);
		const left = cross(scaled(normal, 1 / norm(normal)), along);
		const way: Point = [0, 1, 2].map((c) => (along[c]! * x + left[c]! * y) / this.left) as [number, number, number];
		this.state = [u, v, dot(way, du), dot(way, dv)];
		// From a border backwards: through the panel before it.
		const [byU, byV] = this.slope(this.state);
		if (byU < 0 && this.pu > 0 && u === this.us[this.pu]) this.enter(0, this.pu - 1, u, -1);
		if (byV < 0 && this.pv > 0 && v === this.vs[this.pv]) this.enter(1, this.pv - 1, v, -1);
	}

	/** Where the way ends; nothing where it meets a pole. */
	end(): Ahead | undefined {
		let step = this.left;
		for (let k = 0; k < MOST_STEPS; k++) {
			const far = Math.min(step, this.left);
			const { next, error } = this.tried(far);
			// Not a number where the step ran over a pole: then too, it was too far. Far off its panel a polynomial tells nothing.
			if (!(error <= GEODESIC_STEP_MM) || !this.isNear(next)) {
				step = far / 2;
				continue;
			}
			const met = this.border(next, far);
			if (met) {
				this.state = this.tried(met.far).next;
				this.left -= met.far;
				this.land(met.axis, met.sign);
				const over = this.goOver(met.axis, met.sign);
				if (over !== 'on') return over;
			} else {
				this.state = next;
				this.left -= far;
			}
			if (this.left <= 0) return { u: this.state[0], v: this.state[1], turns: this.turns };
			if (error < GEODESIC_STEP_MM / 64) step = far * 2;
		}
		return undefined;
	}

	private derivatives(u: number, v: number): Derivatives {
		return derivativesIn(this.surface, this.pu, this.pv, u, v);
	}

	/** How fast all four change by a mm: u' and v' are the way in the tangent plane, p' and q' its products with how du and dv turn. */
	private slope([u, v, p, q]: State): State {
		const { du, dv, duu, duv, dvv } = this.derivatives(u, v);
		const [a, b] = speeds(du, dv, p, q);
		const along = (x: Point, y: Point) => {
			let sum = 0;
			for (let c = 0; c < 3; c++) sum += (a * du[c]! + b * dv[c]!) * (a * x[c]! + b * y[c]!);
			return sum;
		};
		return [a, b, along(duu, duv), along(duv, dvv)];
	}

	private stepped(from: State, h: number): State {
		const moved = (slope: State, by: number) => from.map((x, k) => x + slope[k]! * by) as unknown as State;
		const a = this.slope(from);
		const b = this.slope(moved(a, h / 2));
		const c = this.slope(moved(b, h / 2));
		const d = this.slope(moved(c, h));
		return from.map((x, k) => x + (h / 6) * (a[k]! + 2 * b[k]! + 2 * c[k]! + d[k]!)) as unknown as State;
	}

	/** Its point and its direction in space. */
	private inSpace([u, v, p, q]: State): { position: Point; way: Point } {
		const { position, du, dv } = this.derivatives(u, v);
		const [a, b] = speeds(du, dv, p, q);
		return { position, way: plus(scaled(du, a), scaled(dv, b)) };
	}

	/** A step in two halves, and how far in mm the way would end from there after a whole one. */
	private tried(h: number): { next: State; error: number } {
		const whole = this.stepped(this.state, h);
		const halves = this.stepped(this.stepped(this.state, h / 2), h / 2);
		// Where they are and where they look: near a pole parameters tell neither.
		const [one, two] = [this.inSpace(whole), this.inSpace(halves)];
		const error = norm(minus(one.position, two.position)) + norm(minus(one.way, two.way)) * (this.left - h);
		return { next: halves.map((x, k) => x + (x - whole[k]!) / 15) as unknown as State, error };
	}

	private isNear([u, v]: State): boolean {
		const within = (borders: Float64Array, panel: number, t: number) => {
			const [low, high] = [borders[panel]!, borders[panel + 1]!];
			return Math.abs(t - (low + high) / 2) < 1.5 * (high - low);
		};
		return within(this.us, this.pu, u) && within(this.vs, this.pv, v);
	}

	/** The first border of the panel that a step goes over, and how far that is along it. */
	private border(next: State, far: number): { axis: 0 | 1; sign: 1 | -1; far: number } | undefined {
		let first: { axis: 0 | 1; sign: 1 | -1; far: number } | undefined;
		for (const axis of [0, 1] as const) {
			const [borders, panel] = axis === 0 ? [this.us, this.pu] : [this.vs, this.pv];
			const [low, high] = [borders[panel]!, borders[panel + 1]!];
			const room = (high - low) * PARALLEL_SINE;
			const sign = next[axis] > high + room ? 1 : next[axis] < low - room ? -1 : undefined;
			if (!sign) continue;
			const at = this.reaches(axis, sign > 0 ? high : low, next, far);
			if (!first || at < first.far) first = { axis, sign, far: at };
		}
		return first;
	}

	/** How far along a step a parameter reaches a value, by its cubic between both ends. */
	private reaches(axis: 0 | 1, value: number, next: State, far: number): number {
		const [a, b] = [this.state[axis], next[axis]];
		const [slopeA, slopeB] = [this.slope(this.state)[axis] * far, this.slope(next)[axis] * far];
		const at = (t: number) =>
			a + t * (slopeA + t * (3 * (b - a) - 2 * slopeA - slopeB + t * (slopeA + slopeB - 2 * (b - a))));
		let [low, high] = [0, 1];
		for (let k = 0; k < 50; k++) {
			const middle = (low + high) / 2;
			if (at(middle) - value < 0 === b - value > 0) low = middle;
			else high = middle;
		}
		return low * far;
	}

	/** Onto the border itself, which the cubic has missed by a hair. */
	private land(axis: 0 | 1, sign: 1 | -1): void {
		const [borders, panel] = axis === 0 ? [this.us, this.pu] : [this.vs, this.pv];
		const slope = this.slope(this.state);
		const more = (borders[sign > 0 ? panel + 1 : panel]! - this.state[axis]) / slope[axis]!;
		if (!Number.isFinite(more)) return;
		this.state = this.state.map((x, k) => x + slope[k]! * more) as unknown as State;
		this.left -= more;
	}

	/** On over a border of the panel; where that is one of the face, the end of the way, and nothing where the face runs to a point there. */
	private goOver(axis: 0 | 1, sign: 1 | -1): 'on' | Ahead | undefined {
		const [borders, panel] = axis === 0 ? [this.us, this.pu] : [this.vs, this.pv];
		const last = borders.length - 2;
		const value = borders[sign > 0 ? panel + 1 : panel]!;
		const inner = sign > 0 ? panel < last : panel > 0;
		if (inner) {
			this.enter(axis, panel + sign, value, sign);
			return 'on';
		}
		if (axis === 0 && this.closed) {
			this.turns += sign;
			this.enter(axis, sign > 0 ? 0 : last, borders[sign > 0 ? 0 : last + 1]!, sign);
			return 'on';
		}
		const [byU, byV] = this.slope(this.state);
		const { du, dv } = this.derivatives(this.state[0], this.state[1]);
		const row = axis === 0 ? norm(dv) * (this.vs.at(-1)! - this.vs[0]!) : norm(du) * (this.us.at(-1)! - this.us[0]!);
		if (!(row > GEODESIC_STEP_MM)) return undefined;
		const at = axis === 0 ? { u: value, v: this.state[1] } : { u: this.state[0], v: value };
		return { ...at, turns: this.turns, beyond: { length: this.left, byU, byV } };
	}

	/** Into a panel at its border: along the border the way keeps its share, whatever fold there is, and so the angle. */
	private enter(axis: 0 | 1, panel: number, value: number, sign: 1 | -1): void {
		const kept = this.state[axis === 0 ? 3 : 2];
		const other = this.state[1 - axis]!;
		const place = axis === 0 ? ([value, other] as const) : ([other, value] as const);
		if (axis === 0) this.pu = panel;
		else this.pv = panel;
		const { du, dv } = this.derivatives(...place);
		const [own, along] = axis === 0 ? [du, dv] : [dv, du];
		const [e, f, g] = [dot(own, own), dot(own, along), dot(along, along)];
		const across = Math.sqrt(Math.max(0, 1 - (kept * kept) / g) * Math.max(0, e - (f * f) / g));
		const pushed = (kept * f) / g + sign * across;
		this.state = axis === 0 ? [...place, pushed, kept] : [...place, kept, pushed];
	}
}
