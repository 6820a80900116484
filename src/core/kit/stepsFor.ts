import type { Kit, Step } from './schema.ts';

/** The steps that serve hosts of so many corners, without those switched off. */
export function stepsFor(kit: Kit, corners: number): readonly Step[] {
	return stepList(kit, corners).filter((s) => !s.off);
}

/** The same with those that are switched off. */
export const stepList = (kit: Kit, corners: number): readonly Step[] =>
	kit.variants.find((v) => v.corners.includes(corners))?.steps ?? kit.steps;
