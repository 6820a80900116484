import { STANDARD_VIEWS, STANDARD_VIEW_NAMES } from '../stage/standardViews.ts';
import { kindOf } from '../../core/mass/shapes.ts';
import { addLevel } from './levels.ts';
import { NEW_KINDS } from './masses.ts';
import { PLACES, PLACE_NAMES } from './places.ts';
import type { Workspace } from './workspace.svelte.ts';

/** Something that can be done by name from the list of commands, some also by a key. */
export interface Command {
	readonly label: string;
	readonly section: string;
	/** As shown; `Ctrl` stands for the command key on a Mac too. */
	readonly keys?: string;
	readonly run: () => void;
}

/** All commands that can be done now. */
export function commandsOf(work: Workspace): Command[] {
	const { editor } = work;
	const edit: Command[] = [];
	if (editor.undoLabel)
		edit.push({ section: 'Edit', label: `Undo: ${editor.undoLabel}`, keys: 'Ctrl+Z', run: () => editor.undo() });
	if (editor.redoLabel)
		edit.push({ section: 'Edit', label: `Redo: ${editor.redoLabel}`, keys: 'Ctrl+Shift+Z', run: () => editor.redo() });
	if (work.selection.count)
		edit.push({ section: 'Edit', label: 'Let go of the selection', keys: 'Esc', run: () => work.selection.clear() });
	const { current } = work.face;
	for (const [by, where] of [
		[-1, 'earlier'],
		[1, 'later']
	] as const)
		if (current && work.project.masses[current.m + by])
			edit.push({
				section: 'Edit',
				label: `Move ${current.mass.name} ${where} in the list`,
				run: () => work.moveMass(current.m, by)
			});
	return [
		...edit,
		...NEW_KINDS.map((kind) => ({
			section: 'Add',
			label: `Add ${kindOf({ kind }).label.toLowerCase()}`,
			run: () => work.addMass(kind)
		})),
		{ section: 'Add', label: 'Add level', run: () => void editor.apply('Add level', addLevel) },
		{ section: 'Add', label: 'Bring in a model file', run: () => work.bringIn() },
		...PLACE_NAMES.map((place) => ({
			section: 'Go to',
			label: PLACES[place].label,
			run: () => (work.place = place)
		})),
		{
			section: 'Model',
			label: work.runner.held ? 'Compute edits as they come' : 'Hold the model: gather edits',
			keys: 'G',
			run: () => work.runner.hold(!work.runner.held)
		},
		...(work.runner.held && work.runner.stale
			? [
					{
						section: 'Model',
						label: 'Compute the edits that wait',
						keys: 'Ctrl+Enter',
						run: () => work.runner.resume()
					}
				]
			: []),
		{ section: 'View', label: 'Show the revisions', keys: 'H', run: () => void work.revisions.show() },
		{
			section: 'View',
			label: 'Fit',
			keys: 'F',
			run: () => work.space?.fit(work.runner.view && work.selection.addresses(work.runner.view))
		},
		...STANDARD_VIEW_NAMES.map((name) => ({
			section: 'View',
			label: STANDARD_VIEWS[name].label,
			keys: STANDARD_VIEWS[name].key,
			run: () => work.space?.look(name)
		})),
		{
			section: 'View',
			label: work.flat.layout === 'off' ? 'Open the developed view' : 'Close the developed view',
			keys: 'D',
			run: () => (work.flat.layout = work.flat.layout === 'off' ? 'beside' : 'off')
		},
		{
			section: 'View',
			label: work.drawerOpen ? 'Close the schedule' : 'Open the schedule',
			keys: 'S',
			run: () => (work.drawerOpen = !work.drawerOpen)
		}
	];
}

/** The command that a key press stands for. */
export function commandForKey(work: Workspace, event: KeyboardEvent): Command | undefined {
	const control = event.ctrlKey || event.metaKey;
	const key = event.key === 'Escape' ? 'Esc' : event.key.toUpperCase();
	const pressed = `${control ? 'Ctrl+' : ''}${control && event.shiftKey ? 'Shift+' : ''}${key}`;
	return commandsOf(work).find((c) => c.keys === (pressed === 'Ctrl+Y' ? 'Ctrl+Shift+Z' : pressed));
}
