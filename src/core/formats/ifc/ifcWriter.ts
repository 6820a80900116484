import type { IssueTitle } from '../writerInput.ts';
import { StepWriter, stepName, stepText, type Instance, type StepValue } from '../step/stepText.ts';
import type { GlobalIds } from './globalId.ts';

/** Writes the instances of a building model; what has an id of its own says who has made it. */
export class IfcWriter extends StepWriter {
	private owner = '$';

	/** Writes an instance with the globally unique id of a part of something; answers it. */
	root(type: string, ids: GlobalIds, part: number, ...values: readonly StepValue[]): Instance {
		const made = this.begin(type);
		ids.put(this.out, part);
		this.out.text(',');
		this.out.text(this.owner);
		this.finish(values, 2);
		return made;
	}

	/** Says who has made what follows, and when: the author and the date of the issue. */
	ownedBy({ author, date }: Pick<IssueTitle, 'author' | 'date'>): void {
		const person = this.add('IFCPERSON', '$', stepText(author), '$', '$', '$', '$', '$', '$');
		const organization = this.add('IFCORGANIZATION', '$', stepText(author), '$', '$', '$');
		const user = this.add('IFCPERSONANDORGANIZATION', person, organization, '$');
		const maker = this.add('IFCORGANIZATION', '$', "'Zygaster'", '$', '$', '$');
		const application = this.add('IFCAPPLICATION', maker, "'1'", "'Zygaster'", "'Zygaster'");
		const seconds = String(Math.round(Date.parse(`${date}T00:00:00Z`) / 1000));
		const history = [user, application, '$', '.NOTDEFINED.', '$', '$', '$', seconds];
		this.owner = stepName(this.add('IFCOWNERHISTORY', ...history));
	}
}
