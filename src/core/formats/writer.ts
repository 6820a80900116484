import type { z } from 'zod';
import { HOST_TABLES, type HostTableName } from '../schedule/faceTable.ts';
import type { TableName } from '../schedule/tables.ts';
import type { Sink } from './sink.ts';
import type { WriterInput } from './writerInput.ts';

/** One kind of file of the handover. */
export interface Writer {
	/** As it is called on screen, and what it is good for. */
	readonly label: string;
	readonly help: string;
	/** What a file of it is called beside others. */
	readonly name: string;
	readonly extension: string;
	readonly media: string;
	/** Only where somebody asks for it by name. */
	readonly onAsking?: boolean;
	/** It is written from the project alone: no model need be made for it. */
	readonly ofProject?: boolean;
	/** Settings that whoever orders it may give; all have defaults. */
	readonly options: z.ZodType;
	/** Why there is nothing to be written, where a model has nothing for it. */
	readonly missing: (input: WriterInput) => string | undefined;
	/** Writes the file piece after piece. Throws where the options are none of its own. */
	readonly write: (input: WriterInput, options: unknown, sink: Sink) => void | Promise<void>;
}

/** A writer whose options are checked by its own schema. */
export const writer = <Schema extends z.ZodType>(
	options: Schema,
	write: (input: WriterInput, options: z.output<Schema>, sink: Sink) => void | Promise<void>,
	rest: Omit<Writer, 'options' | 'write' | 'missing'> & Partial<Pick<Writer, 'missing'>>
): Writer => ({
	missing: () => undefined,
	...rest,
	options,
	write: (input, given, sink) => write(input, options.parse(given), sink)
});

/** Whether a schedule of the model has any rows. */
export const hasRows = ({ model }: WriterInput, name: TableName) =>
	model.schedule.some((face) =>
		(name === 'parts' ? HOST_TABLES : [name as HostTableName]).some((t) => face.tables[t].count > 0)
	);
