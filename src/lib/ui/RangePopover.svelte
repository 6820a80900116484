<script lang="ts">
	import ListFilter from '@lucide/svelte/icons/list-filter';
	import { Popover } from 'bits-ui';
	import { useWorkspace } from '$lib/editor/context.ts';
	import { tableOf } from '$core/schedule/tables.ts';
	import { parseQuantity } from '$core/units/parse.ts';
	import { printFull, printQuantity } from '$core/units/print.ts';

	let { column }: { column: string } = $props();

	const work = useWorkspace();
	const definition = $derived(tableOf(work.schedule.table).columns[column]!);
	const unit = $derived(work.project.units);
	const range = $derived(work.schedule.rangeOf(column));
	let error = $state<string>();

	const ENDS = [
		{ end: 'least', label: 'At least' },
		{ end: 'greatest', label: 'At most' }
	] as const;

	/** Areas and weights are typed in the unit of the heading. */
	function read(text: string): { value: number } | { error: string } {
		const parsed = parseQuantity(text, definition.quantity, unit);
		if ('error' in parsed || definition.quantity !== 'area') return parsed;
		return { value: parsed.value * (unit === 'ft-in' ? 304.8 ** 2 : 1e6) };
	}

	function set(end: 'least' | 'greatest', text: string) {
		if (text.trim() === '') {
			error = undefined;
			return work.schedule.setRange(column, end, undefined);
		}
		const parsed = read(text);
		error = 'error' in parsed ? parsed.error : undefined;
		if ('value' in parsed) work.schedule.setRange(column, end, parsed.value);
	}
</script>

<Popover.Root>
	<Popover.Trigger
		class="rounded p-0.5 hover:text-patina {range ? 'text-patina' : 'text-soft/70'}"
		aria-label="Filter by {definition.label.toLowerCase()}"
		title="Filter by {definition.label.toLowerCase()}"
	>
		<ListFilter size={12} strokeWidth={range ? 3 : 2} />
	</Popover.Trigger>
	<Popover.Portal>
		<Popover.Content
			class="z-30 w-56 rounded-md border border-rule bg-sheet p-3 text-base text-ink shadow-lg"
			sideOffset={6}
			collisionPadding={8}
		>
			<p class="mb-2 font-semibold">{definition.label}</p>
			{#each ENDS as { end, label } (end)}
				{@const value = range?.[end]}
				<label class="my-1.5 grid grid-cols-[70px_1fr] items-center">
					<span class="text-soft">{label}</span>
					<input
						class="field figure"
						value={value === undefined ? '' : printFull(value, definition.quantity, unit)}
						placeholder={printQuantity(0, definition.quantity, unit).unit}
						onchange={(e) => set(end, e.currentTarget.value.replace(/\s*(m²|ft²)$/, ''))}
					/>
				</label>
			{/each}
			{#if error}<p class="text-small text-rust" role="alert">{error}</p>{/if}
		</Popover.Content>
	</Popover.Portal>
</Popover.Root>
