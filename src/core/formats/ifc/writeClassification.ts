import type { Handover } from '../../project/handover.ts';
import { stepText, type Instance } from '../step/stepText.ts';
import { PART, type GlobalIds } from './globalId.ts';
import type { IfcWriter } from './ifcWriter.ts';

const textOr = (text: string) => (text ? stepText(text) : '$');

/** References into a classification, for all members of what each code is given to. */
export function writeClassification(
	step: IfcWriter,
	ids: (name: string) => GlobalIds,
	{ name, source, edition, codes }: NonNullable<Handover['classification']>,
	membersOf: (of: string) => readonly Instance[]
): void {
	const system = step.add('IFCCLASSIFICATION', textOr(source), textOr(edition), '$', stepText(name), '$', '$', '$');
	for (const { of, code, title } of codes) {
		const members = membersOf(of);
		if (members.length === 0) continue;
		const reference = step.add('IFCCLASSIFICATIONREFERENCE', '$', stepText(code), textOr(title), system, '$', '$');
		const own = ids(`classification ${of}`);
		step.root('IFCRELASSOCIATESCLASSIFICATION', own, PART.code, stepText(name), '$', members, reference);
	}
}
