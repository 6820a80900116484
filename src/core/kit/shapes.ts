import { bayPoints } from './baySize.ts';
import { takesCorners } from './corners.ts';
import type { HostShape } from './hosts.ts';
import type { Kit } from './schema.ts';

/** A shape of host for each list of steps that a kit has. */
export function shapesOf({ host, variants }: Kit): HostShape[] {
	switch (host.kind) {
		case 'cell':
		case 'box': {
			const own = variants.flatMap((v) => v.corners);
			const fits = (n: number) => takesCorners(host, n);
			const plain = [4, host.leastCorners, ...Array.from({ length: 62 }, (_, n) => n + 3)].find(
				(n) => fits(n) && !own.includes(n)
			);
			const counts = [
				...(plain === undefined ? [] : [plain]),
				...variants.flatMap((v) => v.corners.filter(fits).slice(0, 1))
			];
			return counts.map((corners) => ({ kind: host.kind, corners }));
		}
		case 'edge':
			return [{ kind: 'edge', corners: 2 }];
		case 'node':
			return [{ kind: 'node', corners: 4 }];
		case 'path':
			return [{ kind: 'path', corners: 5 }];
		case 'bay':
			return [{ kind: 'bay', corners: bayPoints(host) }];
	}
}
