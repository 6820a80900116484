import { idOf, partsOf, pathOf, type Operation, type Patch, type Step, type Steps } from './jsonPatch.ts';
import { KnownIds } from './knownIds.ts';

/** An operation with what its patch has told about the elements on its way. */
export interface Read {
	readonly operation: Operation;
	readonly steps: Steps;
	readonly from?: Steps | undefined;
	/** Of what is put into a list: the id of the element before it. */
	readonly behind?: string | undefined;
	/** What it changes, or asks for. */
	readonly touched: readonly Steps[];
}

/** A patch without its tests of ids, which have become knowledge of its other operations. */
export function readPatch(patch: Patch): Read[] {
	const known = new KnownIds();
	const stepsOf = (path: string): Step[] => {
		const names = partsOf(path);
		return names.map((name, k) => ({ name, id: known.at(pathOf(names.slice(0, k + 1))) }));
	};
	const reads: Read[] = [];
	for (const operation of patch) {
		const id = operation.op === 'test' ? /^(.*\/\d+)\/id$/.exec(operation.path)?.[1] : undefined;
		if (id !== undefined && 'value' in operation && typeof operation.value === 'string') {
			known.learn(id, operation.value);
			continue;
		}
		const steps = stepsOf(operation.path);
		const from = 'from' in operation ? stepsOf(operation.from) : undefined;
		const at = Number(steps.at(-1)?.name);
		const put = operation.op === 'add' || operation.op === 'move' || operation.op === 'copy';
		const behind = put && at > 0 ? known.at(pathOf([...steps.slice(0, -1).map((s) => s.name), at - 1])) : undefined;
		reads.push({ operation, steps, from, behind, touched: touchedBy(operation, steps, from) });
		known.forget(operation);
	}
	return reads;
}

export const isPlace = ({ name }: Step) => /^(\d+|-)$/.test(String(name));

/** Elements that have ids are touched by themselves; what is put into or taken out of another list touches all of it. */
function touchedBy(operation: Operation, steps: Steps, from: Steps | undefined): Steps[] {
	const list = steps.slice(0, -1);
	const last = steps.at(-1);
	const isInList = last !== undefined && isPlace(last);
	switch (operation.op) {
		case 'add': {
			if (!isInList) return [steps];
			const id = idOf(operation.value);
			return id === undefined ? [list] : [[...list, { name: last.name, id }]];
		}
		case 'remove':
			return [isInList && last.id === undefined ? list : steps];
		case 'move': {
			const id = from?.at(-1)?.id;
			return id === undefined ? [list, from!.slice(0, -1)] : [from!];
		}
		case 'copy':
			return [isInList ? list : steps, from!];
		default:
			return [steps];
	}
}
