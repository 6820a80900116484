// What a model is asked once somebody looks closer: a part of its own, so that the first picture waits for less.
export { pagesOf } from '../../core/formats/paper/pagesOf.ts';
export { rowWorld } from '../../core/project/rowWorld.ts';
export { quantitiesOf } from '../../core/schedule/cost/quantities.ts';
export { drawTypes } from '../../core/schedule/types/drawTypes.ts';
export { compareStates, modelOf } from './comparison.ts';
export { filePreview } from './filePreview.ts';
export { placementOfRow, rowKey, rowsAtCells, viewOwnTable } from './ownTables.ts';
export { Picking } from './picking.ts';
