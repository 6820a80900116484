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

/** Length, mm. Borders of two faces nearer than a joint is wide meet (practice). Two faces of a coarse mesh, each rounded by itself, part by some mm. */
export const MEETING_MM = 20;

/** Length, mm. Where a line crosses a seam, seen from its two sides, is one point: cells run straight between nodes there, and rows of unlike lengths bend what is straight. */
export const OVER_SEAM_MM = 2;

/** Ratio of an edge's length. A line that is this near to an edge looks like it until the edge is 500 pixels long. */
export const DRAWN_STRAIGHT = 0.002;

/** Length, mm. Round outlines are cut into polygons that stay within this: what a template or a cut sheet can show. */
export const CHORD_MM = 0.1;

/** Area, mm2. A face from a file that is smaller is left over from modelling, as between two faces that hardly meet. */
export const LEAST_FACE_MM2 = 1;

/** Ratio of a triangle. A point counts as within a triangle that it misses by less: rounding on the line between two. */
export const MISSED_SHARE = 1e-9;

/** Length, mm. A face this near to the mesh that it was laid over is near enough: what surveys and facets are good for. */
export const MESH_NEAR_MM = 0.5;

/** Ratio of a face's size. The same for large faces, whose meshes are coarser. */
export const MESH_NEAR_SHARE = 2e-5;

/** Ratio of the diagonal. Pivots of an incomplete factor are held above this, so that it stays positive. */
export const LEAST_PIVOT = 1e-3;

/** Ratio of the mean weight. Weights of flat or obtuse triangles are held at this, so that no map folds over. */
export const LEAST_HARMONIC_WEIGHT = 1e-3;

/** Ratio. Areas of a fill that differ by more than this from outline less holes tell of a hole that sticks out. */
export const FILL_RESIDUAL = 1e-6;

/** Ratio of a ring's size. A point nearer to a side than this lies on it. */
export const ON_SIDE = 1e-9;

/** Ratio of a way's length. A way along a face is the shortest when its points move less than this: a thousandth of a mm on 10 m. */
export const GEODESIC_RESIDUAL = 1e-7;

/** Length, mm. A step of a way straight ahead is known this well before its two halves are set off against the whole, which leaves a hundredth of it. A row shorter than this is a point. */
export const GEODESIC_STEP_MM = 1e-3;

/** Angle, radians. A way straight ahead that meets the point of a face exactly passes it by this on its left: 0.01 mm on 10 m. */
export const PAST_POLE = 1e-6;

/** Ratio of the shorter of two sides. Two chains cross where their sides pass each other nearer than this: diagonals of a warped field miss each other by its warp. */
export const CROSSING_SHARE = 0.05;

/** Sine of an angle. A triangle that looks less than this to one side of a direction looks across it: 0.06 degrees, which walls of plates are off by rounding. */
export const SIDEWAYS_SINE = 1e-3;

/** Length, mm. What is left of a bar that is shorter is what rounding leaves, and the tilt of a bar against its cell. */
export const LEAST_BAR_MM = 1;

/** Ratio of a cell's area. A piece that is smaller is what rounding leaves. */
export const LEAST_PIECE_SHARE = 1e-6;

/** Length, mm. A strip that an opening takes off a cell, or leaves of it, is none where it is narrower than this: nobody cuts it, the joint takes it (practice). */
export const LEAST_CUT_MM = 1;

/** Sine of the greatest angle, about 20 degrees, by which a curve turns from chord to chord. */
export const ROUND_SINE = 0.35;

/** Sine of an angle. A corner that lay straight in its field turns no more than this once the face is laid flat. */
export const STRAIGHT_SINE = 0.2;

/** Ratio of a field's area. An overlap or a gap of a unit that is smaller is what rounding leaves. */
export const LEAST_FIELD_SHARE = 1e-5;

/** Ratio of a field. Coordinates of a unit that are nearer are the same. */
export const SAME_FIELD = 1e-7;

/** Ratio of a whole turn. A cell that lies this little before the first bearing is on it. */
export const SAME_TURN = 1e-9;

/** Ratio of a ball's radius. A ray meets the face when it misses by less. */
export const MET_SHARE = 1e-10;

/** Ratio of volumes. Points whose ball is larger by this lie in a plane. */
export const FLAT_SHARE = 1e-9;

/** Ratio of the angle between two cells, times the way from middle to middle. Where they rise against each other by less, they are twisted against each other and neither ridge nor valley. */
export const TWISTED_ONLY = 1e-7;

/** Ratio of a domain. Parameters this near to an end of it are there. */
export const AT_DOMAIN_END = 1e-9;

/** Ratio of lengths, or difference of cosines. Two diagonals that differ by less are alike, so that rounding does not choose between them. */
export const ALIKE_DIAGONALS = 1e-9;

/** Ratio of the steepest slope. A measure may fall by this where it should rise, for rounding. */
export const LEVEL_SLOPE = 1e-9;

/** Ratio of CHART_RESIDUAL. Nodes of like rows are found this much more exactly than those on a chart. */
export const EXACT_SHARE = 1e-4;

/** Ratio. Panels of a chart whose widths differ by less are as wide. */
export const SAME_PANEL = 1e-6;

/** Ratio of a Newton step. No nearer point is looked for along less of it. */
export const SHORTEST_STEP = 1e-3;

/** Length, mm. Ends of a side that has vanished are no further apart: they were set on each other. */
export const VANISHED_SIDE_MM = 1e-6;

/** Ratio of the squares of a face's two derivatives. Where their product is smaller the face runs to a point, and has no normal there. */
export const NO_NORMAL = 1e-12;

/** Ratio. Unit normals whose mean is shorter cancel out. */
export const CANCELLED = 0.05;

/** Angle, radians, of the chords that a curve is cut into where a body over it is measured: right to some hundred thousandths. */
export const FINE_ANGLE = 0.02;

/** Length, mm. A place of a face this near to a height is at it; from further off it is searched for. */
export const AT_HEIGHT_MM = 1e-6;

/** Ratio of a face's length. A seed this little beyond a border is on it. */
export const BESIDE_SHARE = 1e-9;

/** Ratio of the greatest density. Seeds have at least this much of it around them, so that every cell has a middle. */
export const LEAST_DENSITY = 1e-6;

/** Ratio of how far bars flow into each other. A point of their skin this near to the blended body is on it. */
export const ON_BLEND = 1e-4;

/** Length, mm. Two pieces nearer than this in all sizes are never of two types: no workshop tells them apart. */
export const NEVER_PARTED_MM = 0.1;

/** Length, mm. A piece whose host has moved by less stands where it stood: what is set out on site is no better. */
export const MOVED_MM = 0.5;

/** Length, mm. A piece whose size differs by less is the same piece: half the last digit of schedules. */
export const SIZE_NOTED_MM = 0.05;

/** Sine of an angle. Two triangles of a body that meet at less lie in one side of it, and edges that run apart by less are parallel: sides of half a mm, cut by rounding. */
export const STRAIGHT_FOLD = 1e-4;

/** Share of an area. The side of a plate has the area of the table but for this: its curves are drawn in chords. */
export const ONE_SIDE_SHARE = 0.1;

/** Lengths, mm, that are tried in turn. A triangle that is less high over its longest side lies in no plane of its own. */
export const SLIM_MM = [0, 1e-3, 0.05] as const;

/** Ratio of a body's size. Sides of bodies that are combined are set apart by this: some times what single precision, in which they are, leaves of a place. */
export const APART_SHARE = 4e-7;

/** Length, mm. A body that is less thick on average is none: what rounding leaves between lines of one plane. */
export const NO_THICKNESS_MM = 1e-6;

/** Length, mm. Edges of a bar's profile that are nearer to each other are one. */
export const SAME_EDGE_MM = 0.05;

/** Cosine, of about 3 degrees. A sheet that turns by less between two of its triangles is warped there, not bent along a line. */
export const BEND_COSINE = 0.9986;

/** Share of an area that clipping, which rounds to a ten-thousandth of a mm, may take of the narrowest strips. */
export const SAME_FLAT_AREA = 1e-4;

/** Of lengths and areas as good as alike the first is taken, whatever rounding makes of them. */
export const CLEARLY_MORE = 1.02;

/** Cosine, of about 35 degrees. Triangles of a piece that meet at less are drawn as one surface, without a line between them: round bodies have twelve sides or more. */
export const CREASE_COSINE = 0.82;

/** Sine of an angle. A side of a piece that leans less towards the eye is seen on edge. */
export const SEEN_SINE = 1e-6;

/** mm that a line lies behind a triangle by before that hides it: lines of a cell lie in its own triangles but for rounding and warp. */
export const HIDDEN_BEHIND_MM = 2;

/** mm of a line that is seen below which it is left out: what rounding leaves over between triangles. */
export const SEEN_PIECE_MM = 1;
