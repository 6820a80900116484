import { transfer } from 'comlink';
import type { FilePreview } from './filePreview.ts';
import { messageOf } from '../../core/errors.ts';
import type { FaceModel } from '../../core/project/faceResult.ts';
import type { Page } from '../../core/formats/paper/page.ts';
import { likelySizes } from '../../core/formats/likelySize.ts';
import { FORMATS, type Format } from '../../core/formats/format.ts';
import { cellsOfRow } from '../../core/schedule/cellsOfRow.ts';
import { markOf } from '../../core/schedule/faceTable.ts';
import { markOfPart, partsOf, withMaterialNames } from '../../core/schedule/parts.ts';
import { querySchedule, type MarkedTable, type ScheduleAnswer, type ScheduleQuery } from '../../core/schedule/query.ts';
import type { RowSource } from '../../core/schedule/own/columns.ts';
import { cellsAtOpening, openingRows } from '../../core/schedule/own/openings.ts';
import type { TableName } from '../../core/schedule/tables.ts';
import type { PieceDrawing } from '../../core/schedule/pieceDrawing.ts';
import { fixedNumbers, typesByTolerance, typesOf, withTypes } from '../../core/schedule/types/pieceTypes.ts';
import type { TypeSettings } from '../../core/schedule/types/schema.ts';
import { buffersIn } from '../../core/view/buffers.ts';
import { viewParts, type PartView } from '../../core/view/partView.ts';
import type { QuantityTable } from '../../core/schedule/cost/quantities.ts';
import type { OwnTableView, RowPlacement } from './ownTables.ts';
import type { PickedCell } from './picking.ts';
import { cellsOfType, viewTypes, type TypesView } from './types.ts';
import { FaceAnswers } from './faceAnswers.ts';

/** What can be asked of the schedule of the model that is here, and of what is handed over. Faces are asked for by the hash of their view. */
export abstract class ScheduleAnswers extends FaceAnswers {
	/** A schedule of the project's own. */
	async ownTable(id: string): Promise<OwnTableView | undefined> {
		const { viewOwnTable } = await this.askedLater();
		const { model, whole } = this;
		const view = model && whole && viewOwnTable(whole, model, id);
		return view && transfer(view, buffersIn([view.columns, view.order]));
	}

	/** What a row of it is known by: notes hang on that. */
	async rowKey(id: string, row: number): Promise<string | undefined> {
		const { rowKey } = await this.askedLater();
		const { model, whole } = this;
		return model && whole && rowKey(whole, model, id, row);
	}

	/** Its rows that belong to cells. */
	async ownRowsAt(id: string, cells: readonly PickedCell[]): Promise<number[]> {
		const { rowsAtCells } = await this.askedLater();
		const { model, whole } = this;
		return model && whole ? rowsAtCells(whole, model, id, cells) : [];
	}

	/** The kit whose parameter a row of it shows. */
	async placementOfRow(id: string, row: number, parameter: string): Promise<RowPlacement | undefined> {
		const { placementOfRow } = await this.askedLater();
		const { model, whole } = this;
		return model && whole && placementOfRow(whole, model, id, row, parameter);
	}

	/** The pages of a sheet of the project, as they are printed. */
	async sheetPages(id: string): Promise<readonly Page[]> {
		const { pagesOf } = await this.askedLater();
		const { model, whole } = this;
		return model && whole
			? pagesOf(
					{ project: whole, model },
					whole.handover.sheets.filter((s) => s.id === id)
				)
			: [];
	}

	/** How a file of the handover begins, or what it shows. */
	async filePreview(format: Format, table?: string): Promise<FilePreview | undefined> {
		const { filePreview } = await this.askedLater();
		const { model, whole } = this;
		if (!model || !whole) return undefined;
		try {
			return await filePreview({ project: whole, model }, format, table);
		} catch (cause) {
			return { kind: 'nothing', reason: messageOf(cause) };
		}
	}

	/** Likely bytes of the files that can be made of the model. */
	fileSizes(): Partial<Record<Format, number>> {
		if (!this.model) return {};
		const sizeOf = likelySizes(this.model);
		return Object.fromEntries(FORMATS.map((f) => [f, sizeOf(f)]));
	}

	/** What everything comes to, and costs. */
	async quantities(): Promise<QuantityTable | undefined> {
		const { quantitiesOf, rowWorld } = await this.askedLater();
		const { model, whole } = this;
		return model && whole && quantitiesOf(model.faces, rowWorld(whole));
	}

	query(query: ScheduleQuery): ScheduleAnswer | undefined {
		if (!this.model) return undefined;
		const answer = querySchedule(
			this.model.faces.map((face) => this.markedTable(face, query.table)),
			query
		);
		return transfer(answer, [answer.order.buffer as ArrayBuffer]);
	}

	private markedTable(face: FaceModel, name: TableName): MarkedTable {
		const { schedule } = face;
		if (name !== 'parts') return { table: schedule.tables[name], markOf: (r) => markOf(schedule, name, r) };
		const { types, typeOf } = typesOf(this.model!.faces, this.project.types);
		const named = withMaterialNames(partsOf(face), this.project.materials);
		const table = withTypes(
			named,
			types.map((t) => t.mark),
			typeOf[this.model!.faces.indexOf(face)]!
		);
		return { table, markOf: (r) => markOfPart(schedule, table, r) };
	}

	/** The types of all pieces, with what the piece that each is measured by comes to. */
	types(): TypesView | undefined {
		return this.model && viewTypes(this.model, this.project.types);
	}

	/** The pieces that types are measured by, drawn. */
	async drawTypes(list: readonly number[]): Promise<readonly (PieceDrawing | undefined)[]> {
		const { drawTypes } = await this.askedLater();
		return this.model ? drawTypes(this.model.faces, this.project.types, list) : [];
	}

	/** The numbers of all types as they are, to be kept in the project. */
	fixedNumbers(): TypeSettings['fixed'] {
		const faces = this.model?.faces ?? [];
		return fixedNumbers(faces, typesOf(faces, this.project.types));
	}

	/** How many types there would be with other tolerances, as shares of the usual one. */
	typesByTolerance(shares: readonly number[]): number[] {
		return this.model ? typesByTolerance(this.model.faces, this.project.types, shares) : [];
	}

	/** The cells that the pieces of a type are at: face and cell. */
	cellsOfType(type: number): { readonly face: number; readonly cell: number }[] {
		return this.model ? cellsOfType(this.model, this.project.types, type) : [];
	}

	/** The parts of faces, one row a piece; nothing for a face that is not there any more. */
	parts(hashes: readonly string[]): readonly (PartView | undefined)[] {
		const views = hashes.map((hash) => {
			const face = this.views.get(hash);
			return face && viewParts(partsOf(face));
		});
		return transfer(views, buffersIn(views));
	}

	/** The cells that a row of a face's schedule touches. */
	cellsOfRow(hash: string, table: RowSource, row: number): number[] {
		const face = this.views.get(hash);
		if (!face) return [];
		return table === 'openings' ? cellsAtOpening(face, openingRows(face)[row]!) : cellsOfRow(face, table, row);
	}
}
