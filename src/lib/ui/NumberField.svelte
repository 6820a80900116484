<script lang="ts">
	import { parseQuantity } from '$core/units/parse.ts';
	import { printQuantity } from '$core/units/print.ts';
	import type { LengthUnit, Quantity } from '$core/units/quantity.ts';

	interface Props {
		label: string;
		/** In inner units: mm, radians. */
		value: number;
		quantity: Quantity;
		unit: LengthUnit;
		help?: string;
		/** Change of one arrow key or one pixel of dragging, in inner units. */
		step?: number;
		/** Shows a value while it is dragged or stepped; answers what is wrong with it. */
		onpreview: (value: number) => string | undefined;
		/** Accepts a value; answers what is wrong with it. */
		oncommit: (value: number) => string | undefined;
		/** Drops what was previewed. */
		onrevert: () => void;
	}

	let { label, value, quantity, unit, help = '', step, onpreview, oncommit, onrevert }: Props = $props();

	const id = $props.id();
	/** What is typed, while it is typed. */
	let draft = $state<string>();
	let error = $state<string>();
	let dragged: { x: number; from: number; last: number } | undefined;

	const shown = $derived(printQuantity(value, quantity, unit));
	const size = $derived(step ?? defaultStep(quantity, unit));

	function defaultStep(quantity: Quantity, unit: LengthUnit): number {
		if (quantity === 'length') return { mm: 10, m: 100, 'ft-in': 25.4 }[unit];
		return {
			angle: Math.PI / 180,
			ratio: 0.01,
			count: 1,
			area: 1e4,
			volume: 1e6,
			mass: 1,
			curvature: 0.01,
			gaussian: 0.01,
			money: 1
		}[quantity];
	}

	/** Whole steps, so that 0.1 + 0.2 does not show its tail. */
	const stepped = (from: number, steps: number) => Math.round((from + steps * size) * 1e6) / 1e6;

	function accept() {
		if (draft === undefined) return;
		const parsed = parseQuantity(draft, quantity, unit);
		if ('error' in parsed) return void (error = parsed.error);
		const unchanged = draft.trim() === shown.text;
		draft = undefined;
		error = unchanged ? undefined : oncommit(parsed.value);
	}

	function onkeydown(event: KeyboardEvent) {
		if (event.key === 'Enter') accept();
		else if (event.key === 'Escape') {
			draft = error = undefined;
			onrevert();
		} else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
			event.preventDefault();
			const steps = (event.key === 'ArrowUp' ? 1 : -1) * (event.shiftKey ? 10 : 1);
			draft = undefined;
			error = oncommit(stepped(value, steps));
		}
	}

	function startDrag(event: PointerEvent) {
		(event.currentTarget as Element).setPointerCapture(event.pointerId);
		dragged = { x: event.clientX, from: value, last: value };
	}

	function drag(event: PointerEvent) {
		if (!dragged) return;
		const next = stepped(dragged.from, Math.round((event.clientX - dragged.x) / 2));
		if (next === dragged.last) return;
		error = onpreview(next);
		if (!error) dragged.last = next;
	}

	function endDrag() {
		if (dragged && dragged.last !== dragged.from) error = oncommit(dragged.last);
		dragged = undefined;
	}
</script>

<div class="my-1.5 grid grid-cols-[96px_1fr] items-center gap-x-2">
	<label
		for={id}
		class="cursor-ew-resize touch-none text-soft select-none"
		title={`${help ? `${help}. ` : ''}Drag sideways to change.`}
		onpointerdown={startDrag}
		onpointermove={drag}
		onpointerup={endDrag}
		onpointercancel={endDrag}>{label}</label
	>
	<span
		class="flex items-center rounded border bg-paper px-2 focus-within:outline-2 focus-within:outline-patina {error
			? 'border-rust'
			: 'border-control'}"
	>
		<input
			{id}
			class="figure w-full min-w-0 bg-transparent py-[3px] outline-none"
			type="text"
			role="spinbutton"
			autocomplete="off"
			aria-valuenow={value}
			aria-valuetext={`${shown.text} ${shown.unit}`}
			aria-invalid={error ? 'true' : undefined}
			aria-describedby={error ? `${id}-error` : undefined}
			value={draft ?? shown.text}
			oninput={(event) => (draft = event.currentTarget.value)}
			onfocus={(event) => event.currentTarget.select()}
			onblur={accept}
			{onkeydown}
		/>
		{#if shown.unit}<span class="pl-1 text-soft">{shown.unit}</span>{/if}
	</span>
	{#if error}
		<p id="{id}-error" class="col-span-2 mt-1 text-small whitespace-pre-line text-rust" role="alert">
			{error}
		</p>
	{/if}
</div>
