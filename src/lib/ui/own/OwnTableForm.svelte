<script lang="ts">
	import Settings2 from '@lucide/svelte/icons/settings-2';
	import X from '@lucide/svelte/icons/x';
	import { columnsOf, ROW_SOURCES, sourceOf } from '$core/schedule/own/columns.ts';
	import { kitColumns } from '$core/schedule/own/kitValues.ts';
	import { COLUMN_UNITS, SUMMARIES, type OwnTable, type ValueColumn } from '$core/schedule/own/schema.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { inOrder, newNoteColumn, tableIn } from '$lib/editor/ownTables.ts';
	import DraggedList from '../DraggedList.svelte';
	import TextField from '../TextField.svelte';

	interface Props {
		id: string;
	}
	let { id }: Props = $props();

	const work = useWorkspace();
	const table = $derived(work.project.tables.find((t) => t.id === id)!);
	const known = $derived({
		...columnsOf(table.of),
		...(table.of === 'openings' ? {} : kitColumns(work.project.kits))
	});
	const names = $derived(Object.keys(known));
	const words = $derived(names.filter((n) => !known[n]!.quantity));
	/** The column whose settings are open. */
	let open = $state<number>();
	let error = $state<string>();

	/** What a filter begins as, where rows have no row on the grid. */
	const FIRST_FILTER: Partial<Record<OwnTable['of'], string>> = { parts: 'weight > 0', openings: 'area > 0' };

	const edit = (label: string, change: (table: OwnTable) => void) =>
		(error = work.editor.commit(label, (draft) => change(tableIn(draft, id))));
	const value = (t: OwnTable, c: number) => t.columns[c] as ValueColumn;
	const labelOf = (column: OwnTable['columns'][number]) =>
		column.label ?? (column.kind === 'value' ? (known[column.show]?.label ?? column.show) : '');

	/** Columns have no ids: they are told by where they stand. */
	function order(places: readonly string[]) {
		open = undefined;
		edit('Move column', (t) => {
			const numbered = t.columns.map((column, c) => ({ column, at: String(c) }));
			t.columns = inOrder(numbered, places, (n) => n.at).map((n) => n.column);
		});
	}
	function addColumn(show: string) {
		const total = known[show]?.total;
		const summary = total === 'sum' ? 'sum' : total === 'greatest' ? 'greatest' : 'none';
		edit('Add a column', (t) => t.columns.push({ kind: 'value', show, summary }));
	}
	/** A number, or nothing; answers what is wrong. */
	function setNumber(c: number, key: 'decimals' | 'least' | 'greatest' | 'width', text: string): string | undefined {
		const number = text === '' ? undefined : Number(text.replace(',', '.'));
		if (number !== undefined && !Number.isFinite(number)) return `“${text}” is no number.`;
		return edit(`Change ${key}`, (t) => {
			if (number === undefined) Reflect.deleteProperty(value(t, c), key);
			else value(t, c)[key] = number;
		});
	}
</script>

{#snippet small(label: string, title: string, Icon: typeof X, onclick: () => void, disabled = false)}
	<button class="text-soft hover:text-patina disabled:invisible" aria-label={label} {title} {disabled} {onclick}
		><Icon size={12} /></button
	>
{/snippet}

<div class="my-1 rounded border border-rule bg-paper px-2 py-1 text-small" data-testid="own-form">
	<TextField label="Name" value={table.name} oncommit={(name) => edit('Rename schedule', (t) => (t.name = name))} />
	<label class="grid grid-cols-[96px_1fr] items-center gap-x-2"
		><span class="text-soft">One row a</span>
		<select
			class="field"
			value={table.of}
			onchange={(e) => edit('Change rows', (t) => (t.of = e.currentTarget.value as OwnTable['of']))}
		>
			{#each ROW_SOURCES as name (name)}<option value={name}>{sourceOf(name).one}</option>{/each}
		</select></label
	>

	<h4 class="mt-2 font-semibold">Columns</h4>
	<DraggedList
		ids={table.columns.map((_, c) => String(c))}
		labelOf={(c) => labelOf(table.columns[Number(c)]!)}
		onorder={order}
	>
		{#snippet row(at)}
			{@const c = Number(at)}
			{@const column = table.columns[c]}
			{#if column}
				<div class="flex items-center gap-1.5 py-px">
					<span class="min-w-0 grow truncate" title={column.kind === 'value' ? column.show : 'Written by hand'}
						>{labelOf(column)}</span
					>
					{@render small(
						`Settings of ${labelOf(column)}`,
						'Formula, label, unit, digits, total and limits',
						Settings2,
						() => (open = open === c ? undefined : c)
					)}
					{@render small(
						`Take ${labelOf(column)} out`,
						'Take out',
						X,
						() => ((open = undefined), edit('Take out a column', (t) => t.columns.splice(c, 1))),
						table.columns.length === 1
					)}
				</div>
				{#if open === c}
					<div class="mb-1 border-l-2 border-rule pl-2">
						<TextField
							label="Label"
							value={labelOf(column)}
							oncommit={(label) =>
								edit('Rename column', (t) => {
									if (label) t.columns[c]!.label = label;
									else if (t.columns[c]!.kind === 'value') delete value(t, c).label;
								})}
						/>
						{#if column.kind === 'value'}
							<TextField
								label="Shows"
								help="A column by its name, or a formula such as weight / area. Known: {names.join(', ')}"
								value={column.show}
								oncommit={(show) => edit('Change column', (t) => (value(t, c).show = show))}
							/>
							<label class="grid grid-cols-[96px_1fr] items-center gap-x-2"
								><span class="text-soft">Total</span>
								<select
									class="field"
									value={column.summary}
									onchange={(e) =>
										edit(
											'Change total',
											(t) => (value(t, c).summary = e.currentTarget.value as ValueColumn['summary'])
										)}
								>
									{#each SUMMARIES as summary (summary)}<option>{summary}</option>{/each}
								</select></label
							>
							{#if known[column.show]?.quantity !== undefined || !(column.show in known)}
								<label class="mt-1 grid grid-cols-[96px_1fr] items-center gap-x-2" title="Of lengths, areas and volumes"
									><span class="text-soft">Unit</span>
									<select
										class="field"
										value={column.unit ?? ''}
										onchange={(e) =>
											edit('Change unit', (t) => {
												const unit = e.currentTarget.value as keyof typeof COLUMN_UNITS | '';
												if (unit) value(t, c).unit = unit;
												else delete value(t, c).unit;
											})}
									>
										<option value="">as the project</option>
										{#each Object.keys(COLUMN_UNITS) as unit (unit)}<option>{unit}</option>{/each}
									</select></label
								>
								<TextField
									label="Digits"
									help="Behind the point"
									value={String(column.decimals ?? '')}
									oncommit={(v) => setNumber(c, 'decimals', v)}
								/>
								<TextField
									label="Marked below"
									help="In mm, mm², mm³, radians or kg"
									value={String(column.least ?? '')}
									oncommit={(v) => setNumber(c, 'least', v)}
								/>
								<TextField
									label="Marked above"
									help="In mm, mm², mm³, radians or kg"
									value={String(column.greatest ?? '')}
									oncommit={(v) => setNumber(c, 'greatest', v)}
								/>
							{/if}
						{/if}
						<TextField
							label="Width, px"
							value={String(column.width ?? '')}
							oncommit={(v) => setNumber(c, 'width', v)}
						/>
					</div>
				{/if}
			{/if}
		{/snippet}
	</DraggedList>
	<select
		class="field mt-1"
		aria-label="Add a column"
		value=""
		onchange={(e) => {
			const show = e.currentTarget.value;
			e.currentTarget.value = '';
			if (show === 'note column')
				error = work.editor.commit('Add a column to write in', (draft) =>
					tableIn(draft, id).columns.push(newNoteColumn(draft))
				);
			else if (show === 'formula column') {
				addColumn(names.includes('weight') ? 'weight / 1' : '1');
				open = table.columns.length - 1;
			} else addColumn(show);
		}}
	>
		<option value="" disabled>Add a column …</option>
		<option value="note column">to write in: notes</option>
		<option value="formula column">a formula</option>
		{#each names as name (name)}<option value={name}>{known[name]!.label}</option>{/each}
	</select>

	<h4 class="mt-2 font-semibold">Rows that pass</h4>
	{#each table.where as text, k (k)}
		<div class="flex items-center gap-1">
			<input
				class="field grow"
				aria-label="Filter {k + 1}"
				title="A condition such as role == &quot;pane&quot; or area > 2 m * m"
				value={text}
				onchange={(e) => {
					const next = e.currentTarget.value.trim();
					edit('Change filter', (t) => (next ? (t.where[k] = next) : t.where.splice(k, 1)));
				}}
			/>
			{@render small(`Take filter ${k + 1} away`, 'Take away', X, () =>
				edit('Take a filter away', (t) => t.where.splice(k, 1))
			)}
		</div>
	{:else}<p class="text-soft">All of them.</p>{/each}
	<button
		class="text-patina hover:underline"
		onclick={() => edit('Add a filter', (t) => t.where.push(FIRST_FILTER[table.of] ?? 'row >= 1'))}>Add a filter</button
	>

	<h4 class="mt-2 font-semibold">Groups</h4>
	{#each table.groups as name, k (k)}
		<div class="flex items-center gap-1.5">
			<span class="grow">{known[name]?.label ?? name}</span>
			{@render small(`Take group ${k + 1} away`, 'Take away', X, () =>
				edit('Take a group away', (t) => t.groups.splice(k, 1))
			)}
		</div>
	{/each}
	{#if table.groups.length < 4}
		<select
			class="field"
			aria-label="Group by"
			value=""
			onchange={(e) => {
				const name = e.currentTarget.value;
				e.currentTarget.value = '';
				edit('Group', (t) => t.groups.push(name));
			}}
		>
			<option value="" disabled>Group by …</option>
			{#each words.filter((w) => !table.groups.includes(w)) as name (name)}<option value={name}
					>{known[name]!.label}</option
				>{/each}
		</select>
	{/if}
	{#if table.groups.length}
		<label class="mt-1 flex items-center gap-1.5"
			><input
				type="checkbox"
				class="accent-patina"
				checked={table.folded}
				onchange={(e) => edit('Fold', (t) => (t.folded = e.currentTarget.checked))}
			/>One line a group</label
		>
	{/if}
	{#if error}<p class="mt-1 whitespace-pre-line text-rust" role="alert">{error}</p>{/if}
</div>
