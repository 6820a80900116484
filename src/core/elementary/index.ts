export { acos, asin, atan, atan2 } from './arc.ts';
export { hypot, norm } from './length.ts';
export { pow, square, wholePower } from './power.ts';
export { cos, sin, tan } from './sine.ts';
