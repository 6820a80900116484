/**
 * Every tolerance of the core, each with its dimension, unit and reason.
 * Code names one of these and never writes a bare epsilon.
 */

/** Length, mm. Two points closer than this are the same point of the model. */
export const COINCIDENT_MM = 0.01;

/** Angle, radians: 0.01 mm on a radius of 10 m. Two angles closer than this compare as the same. */
export const SAME_ANGLE = 1e-6;

/**
 * Ratio. Plain numbers (shares, counts, quotients) that differ by less than this, of the larger one or of 1, compare as
 * the same: a quotient of two lengths of some metres is not known any better.
 */
export const SAME_RATIO = 1e-6;

/** Ratio. A direction is square or parallel when the sine of the angle is below this. */
export const PARALLEL_SINE = 1e-9;

/** Length, mm. A face is measured as finely as its true lengths are off by less than this, which leaves some room to what parts two points. */
export const CHART_MM = 0.004;

/** Ratio of a face's true length. A search on a length chart stops at this residual. */
export const CHART_RESIDUAL = 1e-10;

/** Ratio of a face's true length. From a residual below this, one more Newton step reaches CHART_RESIDUAL. */
export const CHART_LAST_STEP = 1e-5;

/**
 * Ratio of a face's true length. A chart whose rows (or columns) differ by less than this is
 * treated as separable, so that its nodes form a tensor grid.
 */
export const CHART_SEPARABLE = 1e-10;

/** Ratio of a curve's domain. Breaks nearer than this are one. */
export const SAME_BREAK = 1e-6;

/** Sine of an angle. Two lines that meet at less than this run on smoothly; about 0.6 degrees. */
export const SMOOTH_JOIN_SINE = 0.01;

/** Length, mm. A cell whose width or height differs by more than this has changed its size. */
export const SIZE_CHANGED_MM = 0.5;

/** Ratio of a body's size. Vertices of a mesh nearer than this are one: files hold six or seven digits. */
export const WELD_SHARE = 1e-7;

/** Ratio. A linear system counts as solved at this residual. */
export const SOLVED = 1e-8;

/** Ratio. A face whose lengths change by less than this when it is laid flat unrolls without stretch. */
export const UNROLLS = 2e-4;

/** Length, mm. Points of polygons laid flat are the same point when nearer than this: clipping rounds to 0.0001 mm. */
export const SAME_FLAT_MM = 0.005;

/** Length, mm. Round outlines are cut into polygons that stay within this: what a template or a cut sheet can show. */
export const CHORD_MM = 0.1;
