<script lang="ts">
	import type { Field, Fields } from '$core/kit/fields.ts';
	import type { Step } from '$core/kit/schema.ts';
	import { STEP_KINDS } from '$core/kit/stepKinds.ts';
	import { parseQuantity } from '$core/units/parse.ts';
	import { completionsFor } from '$lib/editor/completions.ts';
	import { printValue } from '$lib/editor/kitSteps.ts';
	import { useWorkspace } from '$lib/editor/context.ts';
	import type { Quantity } from '$core/units/quantity.ts';
	import TextField from '../TextField.svelte';
	import FormulaField from './FormulaField.svelte';
	import RefField from './RefField.svelte';

	let { step, fault }: { step: Step; fault: string | undefined } = $props();

	const work = useWorkspace();
	const { bench } = work;
	const kit = $derived(bench.kit!);
	const unit = $derived(work.project.units);
	const kind = $derived(STEP_KINDS[step.kind]);
	const values = $derived(step as unknown as Record<string, unknown>);
	const makers = $derived(
		bench.steps.filter((s) => ['pieces', 'mould'].includes(STEP_KINDS[s.kind].makes) && s.name !== step.name)
	);
	const fields = $derived(Object.entries(kind.fields as Fields).filter(([name]) => isShown(name)));
	const completions = () => completionsFor(kit, bench.steps, step.on);

	/** Fields that say nothing with what is chosen beside them stay away. */
	function isShown(name: string): boolean {
		const { profile, by, corners, towards, shape, file } = values;
		if (step.kind === 'bar' || step.kind === 'blades') {
			if (name === 'depth' && (profile === 'round' || profile === 'tube')) return false;
			if (name === 'wall' && (profile === 'rectangle' || profile === 'round' || profile === 'drawn')) return false;
			if ((name === 'width' || name === 'depth') && profile === 'drawn') return false;
			if (name === 'drawn' && profile !== 'drawn') return false;
			if (name === 'radius' && corners !== 'rounded') return false;
		}
		if (step.kind === 'lift' && name === 'along') return towards === 'line';
		if (step.kind === 'sheet' && name === 'tip') return shape === 'centre';
		if (step.kind === 'line' && name === 'pieces') return shape !== 'straight';
		if (step.kind === 'repeat' && name === 'gap') return by !== 'spacing' || values.gives === 'pieces';
		if (step.kind === 'module' && (name === 'mould' || name === 'body')) return file === undefined;
		return name !== 'layer' || kit.host.kind === 'box' || step.on !== undefined;
	}

	/** The quantity of a value that may be one of two. */
	function quantityOf(name: string, field: Field): Quantity {
		const { by, quantity } = values;
		if (field.form.type !== 'value') return 'count';
		if (step.kind === 'value') return quantity as Quantity;
		if ((name === 'distance' || name === 'at') && by === 'ratio') return 'ratio';
		if (name === 'at' && by === 'distance') return 'length';
		if (name === 'amount' && (by === 'spacing' || by === 'length')) return 'length';
		if (step.kind === 'divide' && by === 'spacing') return 'length';
		return field.form.quantity === 'yesno' ? 'count' : field.form.quantity;
	}

	function setValue(name: string, quantity: Quantity, text: string): string | undefined {
		if (text === '') return bench.setField(step.name, name, undefined);
		const parsed = parseQuantity(text, quantity, unit);
		return bench.setField(step.name, name, 'value' in parsed ? parsed.value : text);
	}

	const printPoints = (points: unknown) =>
		((points ?? []) as [number, number][]).map(([x, y]) => `${x}, ${y}`).join('\n');
	function setPoints(name: string, text: string): string | undefined {
		const points = text
			.split(/[\n;]+/)
			.filter((line) => line.trim() !== '')
			.map((line) =>
				line
					.trim()
					.split(/[\s,]+/)
					.map(Number)
			);
		const bad = points.findIndex((p) => p.length !== 2 || !p.every(Number.isFinite));
		if (bad >= 0) return `Corner ${bad + 1} needs two numbers in mm, such as 20, -40.`;
		return bench.setField(step.name, name, points);
	}
	const inner = $derived(step.kind === 'kit' ? work.project.kits.find((k) => k.id === step.kit) : undefined);
</script>

<div class="border-t border-rule px-2.5 py-1.5" data-testid="step-form">
	<p class="mb-1 text-small leading-tight text-soft">{kind.help}.</p>
	{#if fault}<p class="mb-1 text-small whitespace-pre-line text-rust" role="alert">{fault}</p>{/if}
	<TextField
		label="Name"
		help="How formulas and other steps call it"
		value={step.name}
		oncommit={(to) => bench.rename(step.name, to)}
	/>
	{#each fields as [name, field] (name)}
		{@const { form } = field}
		{#if form.type === 'value'}
			{@const quantity = quantityOf(name, field)}
			<FormulaField
				label={field.label}
				help={field.help}
				value={values[name] === undefined ? '' : printValue(values[name] as number, quantity, unit)}
				{completions}
				oncommit={(text) => setValue(name, quantity, text)}
			/>
		{:else if form.type === 'ref'}
			<RefField {step} {name} {field} {form} />
		{:else if form.type === 'option'}
			<div class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2">
				<label for="{step.name}-{name}" class="text-soft" title={field.help}>{field.label}</label>
				<select
					id="{step.name}-{name}"
					class="field"
					value={values[name]}
					onchange={(e) => bench.setField(step.name, name, e.currentTarget.value)}
				>
					{#each Object.entries(form.options) as [value, label] (value)}<option {value}>{label}</option>{/each}
				</select>
			</div>
		{:else if form.type === 'flag'}
			<label class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2" title={field.help}>
				<span class="text-soft">{field.label}</span>
				<input
					type="checkbox"
					class="accent-patina"
					checked={values[name] as boolean}
					onchange={(e) => bench.setField(step.name, name, e.currentTarget.checked)}
				/>
			</label>
		{:else if form.type === 'whole'}
			<TextField
				label={field.label}
				help={field.help}
				value={String(values[name])}
				oncommit={(text) =>
					Number.isInteger(Number(text)) && text !== ''
						? bench.setField(step.name, name, Number(text))
						: `A whole number from ${form.least} to ${form.greatest}.`}
			/>
		{:else if form.type === 'text'}
			<TextField
				label={field.label}
				help={field.help}
				value={(values[name] as string) ?? ''}
				oncommit={(text) => bench.setField(step.name, name, text || undefined)}
			/>
		{:else if form.type === 'points'}
			<label class="my-1 block">
				<span class="text-soft" title={field.help}>{field.label}, mm</span>
				<textarea
					class="field figure mt-0.5 h-20 w-full"
					value={printPoints(values[name])}
					onchange={(e) => (bench.error = setPoints(name, e.currentTarget.value))}></textarea>
			</label>
		{:else if form.type === 'material'}
			<div class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2">
				<label for="{step.name}-{name}" class="text-soft" title={field.help}>{field.label}</label>
				<select
					id="{step.name}-{name}"
					class="field"
					value={values[name]}
					onchange={(e) => bench.setField(step.name, name, e.currentTarget.value)}
				>
					{#each kit.parameters.filter((p) => p.quantity === 'material') as p (p.name)}<option value={p.name}
							>{p.label} (parameter)</option
						>{/each}
					{#each work.project.materials as { id, name: label } (id)}<option value={id}>{label}</option>{/each}
				</select>
			</div>
		{:else if form.type === 'kit'}
			<div class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2">
				<label for="{step.name}-{name}" class="text-soft" title={field.help}>{field.label}</label>
				<select
					id="{step.name}-{name}"
					class="field"
					value={values[name]}
					onchange={(e) => bench.setField(step.name, name, e.currentTarget.value)}
				>
					{#each work.project.kits.filter((k) => k.id !== kit.id) as k (k.id)}<option value={k.id}>{k.name}</option
						>{/each}
				</select>
			</div>
		{:else if form.type === 'module'}
			<div class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2">
				<label for="{step.name}-{name}" class="text-soft" title={field.help}>{field.label}</label>
				<select
					id="{step.name}-{name}"
					class="field"
					value={values[name] ?? ''}
					onchange={(e) => bench.setField(step.name, name, e.currentTarget.value || undefined)}
				>
					<option value="">None: a body of a mould</option>
					{#each work.project.modules as m (m.id)}<option value={m.id}>{m.name}</option>{/each}
				</select>
			</div>
		{:else if form.type === 'values' && inner}
			{@const given = values[name] as Record<string, number | string>}
			<h4 class="heading mt-2">Values of {inner.name}</h4>
			{#each inner.parameters.filter((p) => p.quantity !== 'text') as p (p.name)}
				{@const quantity =
					p.quantity === 'length' || p.quantity === 'angle' || p.quantity === 'ratio' ? p.quantity : 'count'}
				<FormulaField
					label={p.label}
					help="{p.help}. Empty takes the kit’s own."
					hint={typeof p.default === 'string' ? p.default : printValue(p.default, quantity, unit)}
					value={given[p.name] === undefined ? '' : printValue(given[p.name]!, quantity, unit)}
					{completions}
					oncommit={(text) => {
						const { [p.name]: _, ...others } = given;
						const parsed = p.quantity === 'material' ? { value: text } : parseQuantity(text, quantity, unit);
						return bench.setField(
							step.name,
							name,
							text === '' ? others : { ...others, [p.name]: 'value' in parsed ? parsed.value : text }
						);
					}}
				/>
			{/each}
		{/if}
	{/each}
	<FormulaField
		label="Only where"
		help="A condition; nothing is made where it does not hold"
		hint="always"
		value={step.when === undefined ? '' : String(step.when)}
		{completions}
		oncommit={(text) => bench.setField(step.name, 'when', text || undefined)}
	/>
	{#if makers.length}
		<div class="my-1 grid grid-cols-[96px_1fr] items-center gap-x-2">
			<label for="{step.name}-on" class="text-soft" title="Pieces or a mould that it runs on, instead of the host"
				>Runs on</label
			>
			<select
				id="{step.name}-on"
				class="field"
				value={step.on ?? ''}
				onchange={(e) => bench.setField(step.name, 'on', e.currentTarget.value || undefined)}
			>
				<option value="">The host</option>
				{#each makers as maker (maker.name)}<option value={maker.name}>{maker.name}</option>{/each}
			</select>
		</div>
	{/if}
</div>
