/** What a number measures. Inside, lengths are mm, areas mm2, volumes mm3, angles radians, masses kg, money in the project's currency, curvatures 1/mm and those of Gauss 1/mm2. */
export type Quantity =
	'length' | 'area' | 'volume' | 'angle' | 'mass' | 'ratio' | 'count' | 'curvature' | 'gaussian' | 'money';

/** How lengths are shown and typed; areas follow (m2, or ft2 with feet and inches). */
export type LengthUnit = 'mm' | 'm' | 'ft-in';
