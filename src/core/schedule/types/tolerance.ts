/** Classes of ISO 2768-1 for lengths: fine, medium, coarse, very coarse. */
export const TOLERANCE_CLASSES = ['fine', 'medium', 'coarse', 'very coarse'] as const;
export type ToleranceClass = (typeof TOLERANCE_CLASSES)[number];

/** Lengths up to which a step holds, mm, and permissible deviations of each class there, mm (ISO 2768-1, table 1; memory). */
const UP_TO = [6, 30, 120, 400, 1000, 2000, 4000] as const;
const DEVIATIONS: Readonly<Record<ToleranceClass, readonly number[]>> = {
	fine: [0.05, 0.1, 0.15, 0.2, 0.3, 0.5],
	medium: [0.1, 0.2, 0.3, 0.5, 0.8, 1.2, 2],
	coarse: [0.3, 0.5, 0.8, 1.2, 2, 3, 4],
	'very coarse': [0.5, 1, 1.5, 2.5, 4, 6, 8]
};

/** How far a length may differ and still be alike, mm. */
export type Tolerance = (length: number) => number;

/** The permissible deviations of a class; where it names none, that of its nearest step. */
export const classTolerance =
	(name: ToleranceClass): Tolerance =>
	(length) => {
		const deviations = DEVIATIONS[name];
		let step = 0;
		while (step < deviations.length - 1 && length > UP_TO[step]!) step++;
		return deviations[step]!;
	};

/** Class m: what a workshop keeps without being asked. */
export const mediumTolerance = classTolerance('medium');
