import { COINCIDENT_MM } from '../tolerances.ts';
import { evaluateGrid } from './evaluate.ts';
import { panelBorders } from './quadrature.ts';
import { domainOf, type Surface } from './surface.ts';

/** How a face ends: where it closes on itself, and which of its borders have run to a point. */
export interface Ends {
	/** The start border across is the end border: the face has a seam that runs up. */
	readonly closedAcross: boolean;
	readonly closedUp: boolean;
	readonly bottomPoint: boolean;
	readonly topPoint: boolean;
	readonly startPoint: boolean;
	readonly endPoint: boolean;
}

/** Finds out by comparing points along the four borders, within the model's tolerance. */
export function endsOf(surface: Surface): Ends {
	const us = panelBorders(surface.knotsU, surface.degreeU);
	const vs = panelBorders(surface.knotsV, surface.degreeV);
	const [u0, u1] = domainOf(surface.knotsU, surface.degreeU);
	const [v0, v1] = domainOf(surface.knotsV, surface.degreeV);
	const along = (u: Float64Array, v: Float64Array) => evaluateGrid(surface, u, v).position;
	const start = along(Float64Array.of(u0), vs);
	const end = along(Float64Array.of(u1), vs);
	const bottom = along(us, Float64Array.of(v0));
	const top = along(us, Float64Array.of(v1));
	const [bottomPoint, topPoint, startPoint, endPoint] = [bottom, top, start, end].map(isPoint) as [
		boolean,
		boolean,
		boolean,
		boolean
	];
	return {
		closedAcross: meets(start, end) && !startPoint,
		closedUp: meets(bottom, top) && !bottomPoint,
		bottomPoint,
		topPoint,
		startPoint,
		endPoint
	};
}

/** The face has four borders of its own and runs to no point. */
export const OPEN_ENDS: Ends = {
	closedAcross: false,
	closedUp: false,
	bottomPoint: false,
	topPoint: false,
	startPoint: false,
	endPoint: false
};

const meets = (a: Float64Array, b: Float64Array) => a.every((x, k) => Math.abs(x - b[k]!) < COINCIDENT_MM);

const isPoint = (line: Float64Array) => line.every((x, k) => Math.abs(x - line[k % 3]!) < COINCIDENT_MM);
