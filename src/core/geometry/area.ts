import { evaluateGrid } from './evaluate.ts';
import { GAUSS_POINTS, GAUSS_WEIGHTS, panelBorders } from './quadrature.ts';
import type { Surface } from './surface.ts';

/** True area of a surface in mm2, by Gauss-Legendre quadrature between its knots. */
export function surfaceArea(surface: Surface): number {
	const across = quadrature(panelBorders(surface.knotsU, surface.degreeU));
	const up = quadrature(panelBorders(surface.knotsV, surface.degreeV));
	const { du, dv } = evaluateGrid(surface, across.points, up.points);
	let area = 0;
	for (let j = 0, o = 0; j < up.points.length; j++)
		for (let i = 0; i < across.points.length; i++, o += 3) {
			const x = du[o + 1]! * dv[o + 2]! - du[o + 2]! * dv[o + 1]!;
			const y = du[o + 2]! * dv[o]! - du[o]! * dv[o + 2]!;
			const z = du[o]! * dv[o + 1]! - du[o + 1]! * dv[o]!;
			area += across.weights[i]! * up.weights[j]! * Math.sqrt(x * x + y * y + z * z);
		}
	return area;
}

function quadrature(borders: Float64Array) {
	const panels = borders.length - 1;
	const points = new Float64Array(panels * 4);
	const weights = new Float64Array(panels * 4);
	for (let k = 0; k < panels; k++) {
		const width = borders[k + 1]! - borders[k]!;
		for (let g = 0; g < 4; g++) {
			points[k * 4 + g] = borders[k]! + width * GAUSS_POINTS[g]!;
			weights[k * 4 + g] = width * GAUSS_WEIGHTS[g]!;
		}
	}
	return { points, weights };
}
