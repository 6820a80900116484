import type { ModelLook } from '../../../src/lib/stage/modelLayer.ts';

/** How a model is shown in tests: plain. */
export const PLAIN_LOOK: ModelLook = {
	materials: [],
	line: '#1B2426',
	bare: false,
	curves: new Map(),
	panes: new Map(),
	coloured: undefined,
	body: { outside: '#B8DAD3', inside: '#B1ADA4' },
	plain: '#B1ADA4',
	references: [],
	reference: '#CCCCCC'
};
