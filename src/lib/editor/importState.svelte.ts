import type { Remote } from 'comlink';
import { float64sOf } from '../../core/content.ts';
import { messageOf } from '../../core/errors.ts';
import { MOST_FILE_BYTES } from '../../core/formats/modelFiles/detect.ts';
import type { ImportedShape } from '../../core/mass/imported.ts';
import type { FaceReport, LaidPart } from '../../core/mesh/importMesh.ts';
import type { Split } from '../../core/mesh/regions.ts';
import type { Project } from '../../core/project/schema.ts';
import { importLink } from '../worker/client.ts';
import { sendContents, takenIn } from '../worker/contents.ts';
import type { Answer, FileSummary, ImportWorkerApi, PartsView } from '../worker/import.worker.ts';
import { latticeLines } from './lattice.ts';
import { freeId } from './names.ts';

/** What is going on, with its share where that is known. */
interface Busy {
	readonly what: string;
	readonly share?: number;
}

/** Triangles of reference geometry at most, since they are drawn with every picture. */
const MOST_REFERENCE = 2_000_000;

/** A model file on its way in: read, chosen from, parted into faces, laid over. */
export class ImportState {
	file = $state<string>();
	summary = $state.raw<FileSummary>();
	chosen = $state.raw<readonly number[]>([]);
	mm = $state(1);
	split = $state.raw<Split>({ kind: 'crease', angle: Math.PI / 6 });
	parts = $state.raw<PartsView>();
	laid = $state.raw<readonly LaidPart[]>([]);
	/** Faces that could not be laid over, and why. */
	left = $state.raw<readonly string[]>([]);
	busy = $state.raw<Busy>();
	error = $state<string>();
	/** Face whose corners can be moved. */
	face = $state<string>();

	private readonly link = importLink((error) => {
		this.forget();
		this.error = `${error.message} Choose the file again, or a simpler one.`;
	});
	/** Counts what was asked, so that late answers to earlier questions are dropped. */
	private asked = 0;

	/** The unit has been told by the file or by the user. */
	get needsUnit(): boolean {
		return this.summary !== undefined && this.summary.mm === undefined;
	}

	/** Reads files as one. */
	async read(files: readonly File[]): Promise<void> {
		this.stop();
		const [first] = files;
		if (!first) return;
		this.file = files.length === 1 ? first.name : `${first.name} and ${files.length - 1} more`;
		// Told before they are loaded.
		const bytes = files.reduce((n, f) => n + f.size, 0);
		if (bytes > MOST_FILE_BYTES)
			return void (this.error = `“${this.file}” has ${Math.round(bytes / 2 ** 20)} MB; at most ${MOST_FILE_BYTES / 2 ** 20} MB are read.`);
		this.busy = { what: `Reading ${this.file}` };
		const loaded = await Promise.all(
			files.map(async (file) => ({ name: file.name, bytes: new Uint8Array(await file.arrayBuffer()) }))
		);
		const summary = await this.ask((client) => client.read(loaded));
		if (!summary) return;
		this.summary = summary;
		this.mm = summary.mm ?? this.mm;
		this.chosen = summary.pieces.map((_, k) => k);
		if (summary.hasFaces) this.split = { kind: 'file' };
		await this.part();
	}

	/** Parts the chosen pieces anew; what was laid is of the parts before. */
	async part(): Promise<void> {
		this.laid = this.left = [];
		this.face = undefined;
		if (!this.chosen.length) return void (this.parts = undefined);
		this.busy = { what: 'Parting into faces' };
		const [mm, chosen, split] = [this.mm, this.chosen, this.split];
		this.parts = (await this.ask((client) => client.part(mm, chosen, split))) ?? this.parts;
	}

	/** Lays every face over. */
	async layAll(): Promise<void> {
		const parts = this.parts?.parts ?? [];
		const total = parts.reduce((n, p) => n + p.triangles, 0);
		const laid: LaidPart[] = [];
		const left: string[] = [];
		let done = 0;
		for (const { id, name, triangles } of parts) {
			this.busy = { what: `Laying over ${name}`, share: done / total };
			const asked = ++this.asked;
			const answer = await this.link.ask((api) => api.lay(id, undefined)).catch(() => undefined);
			if (!answer || asked !== this.asked) return;
			if ('value' in answer) laid.push(takenIn(answer.value));
			else left.push(`${name}: ${answer.error}`);
			done += triangles;
		}
		this.busy = undefined;
		this.laid = laid;
		this.left = left;
		this.face = laid.find((l) => l.report.corners.length)?.report.id;
		if (!laid.length) this.error = 'No face could be laid over.';
	}

	/** Moves a corner of the chosen face to the nearest place on its border, and lays the face over again. */
	async moveCorner(corner: number, to: readonly [number, number, number]): Promise<void> {
		const report = this.reportOf(this.face);
		if (!report) return;
		const points = report.corners.map((p, k) => (k === corner ? to : p));
		this.busy = { what: `Laying over ${report.name}` };
		const corners = await this.link.ask((api) => api.corners(report.id, points)).catch(() => undefined);
		if (!corners) {
			this.busy = undefined;
			return void (this.error = 'Two corners cannot be at one place.');
		}
		const again = await this.ask((client) => client.lay(report.id, corners));
		if (!again) return;
		const laid = takenIn(again);
		this.laid = this.laid.map((l) => (l.report.id === report.id ? laid : l));
	}

	/** How a face is laid: lines along and up it as pairs of points, mm of the world. */
	linesOf(id: string | undefined): Float32Array {
		const face = this.laid.find((l) => l.report.id === id)?.face;
		if (!face) return new Float32Array(0);
		return latticeLines(face, float64sOf(face.points));
	}

	reportOf(id: string | undefined): FaceReport | undefined {
		return this.laid.find((l) => l.report.id === id)?.report;
	}

	/** The shape that a mass gets. */
	get shape(): ImportedShape {
		return { kind: 'imported', file: this.file ?? '', faces: this.laid.map((l) => l.face) };
	}

	/** Adds what was chosen to a project as reference geometry. */
	async addReference(): Promise<((draft: Project) => void) | undefined> {
		const found = await this.link.ask((api) => api.reference()).catch(() => undefined);
		if (!found) return undefined;
		const { positions, triangles, count } = takenIn(found);
		if (count > MOST_REFERENCE)
			return void (this.error = `This has ${count} triangles; reference geometry may have ${MOST_REFERENCE}. Fewer pieces would be right.`);
		if (!(await this.send([positions, triangles]))) return undefined;
		const name = (this.file ?? 'Reference').replace(/\.[^.]*$/, '');
		return (draft) =>
			void draft.references.push({
				id: freeId(
					'reference',
					draft.references.map((r) => r.id)
				),
				name: name || 'Reference',
				hidden: false,
				positions,
				triangles
			});
	}

	/** Sends contents to the server, before the project names them. Answers whether they are there; else `error` says why. */
	async send(names: readonly string[]): Promise<boolean> {
		const asked = ++this.asked;
		this.error = undefined;
		try {
			await sendContents(names, (share) => {
				if (asked === this.asked) this.busy = { what: 'Sending', share };
			});
			return asked === this.asked;
		} catch (cause) {
			if (asked === this.asked) this.error = messageOf(cause);
			return false;
		} finally {
			if (asked === this.asked) this.busy = undefined;
		}
	}

	/** Stops whatever is going on and forgets the file. */
	stop(): void {
		this.link.stop();
		this.forget();
	}

	private forget(): void {
		this.asked++;
		this.summary = this.parts = this.busy = this.error = this.face = this.file = undefined;
		this.laid = this.left = [];
	}

	/** Asks the worker; nothing when it failed (then `error` says why) or was asked something else meanwhile. */
	private async ask<T>(question: (client: Remote<ImportWorkerApi>) => Promise<Answer<T>>): Promise<T | undefined> {
		const asked = ++this.asked;
		this.error = undefined;
		const answer = await this.link.ask(question).catch((cause: unknown) => ({ error: messageOf(cause) }));
		if (asked !== this.asked) return undefined;
		this.busy = undefined;
		if ('value' in answer) return answer.value;
		this.error = answer.error;
		return undefined;
	}
}
