/**
 * Permissible deviation of a length, mm, class m of ISO 2768-1 (memory): what a workshop keeps without being asked. Beyond
 * 4 m, where the class names none, that of the last step.
 */
export function mediumTolerance(length: number): number {
	const step = STEPS.find(([upTo]) => length <= upTo);
	return step ? step[1] : LAST;
}

const STEPS = [
	[6, 0.1],
	[30, 0.2],
	[120, 0.3],
	[400, 0.5],
	[1000, 0.8],
	[2000, 1.2],
	[4000, 2]
] as const;
const LAST = 2;
