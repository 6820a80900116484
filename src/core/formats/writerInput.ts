import type { FontFiles } from './paper/fonts.ts';
import type { Model } from '../project/pipeline.ts';
import type { Project } from '../project/schema.ts';

/** What files say of the issue that they belong to. */
export interface IssueTitle {
	/** Such as B. */
	readonly mark: string;
	readonly name: string;
	readonly author: string;
	/** ISO 8601: year, month, day. */
	readonly date: string;
	/** Those before it, the first first. */
	readonly earlier?: readonly Omit<IssueTitle, 'earlier'>[];
}

/** What a file is made from. */
export interface WriterInput {
	readonly project: Project;
	readonly model: Model;
	/** The issue that files are of; nothing for the project as it stands. */
	readonly issue?: IssueTitle | undefined;
	/** The application's font, for files with texts of their own. */
	readonly fonts?: FontFiles;
}

/** An issue in one line. */
export const titleOf = ({ mark, name }: IssueTitle): string => `${mark} ${name}`;
