import type { IssueTitle } from '../writerInput.ts';
import { StepWriter, stepText } from '../step/stepText.ts';

/** Writes the instances of a building model; what has an id of its own says who has made it. */
export class IfcWriter extends StepWriter {
	private owner = '$';

	/** Writes an instance with a globally unique id; answers its name. */
	root(type: string, id: string, ...values: readonly string[]): string {
		const name = this.begin(type);
		this.out.text(id);
		this.out.text(',');
		this.out.text(this.owner);
		this.finish(values, 2);
		return name;
	}

	/** Says who has made what follows, and when: the author and the date of the issue. */
	ownedBy({ author, date }: Pick<IssueTitle, 'author' | 'date'>): void {
		const person = this.add('IFCPERSON', '$', stepText(author), '$', '$', '$', '$', '$', '$');
		const organization = this.add('IFCORGANIZATION', '$', stepText(author), '$', '$', '$');
		const user = this.add('IFCPERSONANDORGANIZATION', person, organization, '$');
		const maker = this.add('IFCORGANIZATION', '$', "'Zygaster'", '$', '$', '$');
		const application = this.add('IFCAPPLICATION', maker, "'1'", "'Zygaster'", "'Zygaster'");
		const seconds = String(Math.round(Date.parse(`${date}T00:00:00Z`) / 1000));
		this.owner = this.add('IFCOWNERHISTORY', user, application, '$', '.NOTDEFINED.', '$', '$', '$', seconds);
	}
}
