import { eachSound } from '../sound.ts';
import { stepKind } from '../stepKind.ts';
import type { Point } from '../../geometry/curve.ts';
import { pushCell } from './pieces.ts';

/** The cells that a bay is made of. */
export const bayCells = stepKind({
	kind: 'cells',
	group: 'pieces',
	makes: 'pieces',
	label: 'For each cell of a bay',
	help: 'The cells that a bay has; steps “on” it run for each. They know i and j (from 1, across and up), columns and rows',
	fields: {},
	compile(_, b) {
		const { host } = b.kit;
		if (host.kind !== 'bay' || b.shape.kind !== 'bay')
			throw b.fail('only bays have cells; this kit is made for others');
		const { across, up } = host;
		const { mask } = b;
		b.pieces({ kind: 'cell', corners: 4 }, ['i', 'j', 'columns', 'rows'], (block, out) => {
			const { ids, cornerStart, corners, position } = block.hosts;
			eachSound(block, mask, (h) => {
				const first = cornerStart[ids[block.from + h]!]!;
				const at = (i: number, j: number): Point => {
					const p = corners[first + j * (across + 1) + i]! * 3;
					return [position[p]!, position[p + 1]!, position[p + 2]!];
				};
				for (let j = 0; j < up; j++)
					for (let i = 0; i < across; i++)
						pushCell(
							block,
							h,
							out,
							[at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j + 1)],
							[i + 1, j + 1, across, up]
						);
			});
		});
	}
});
