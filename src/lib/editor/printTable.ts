/** A table on paper: words and figures as they are shown. */
export interface PrintedTable {
	readonly project: string;
	readonly title: string;
	/** Which figures stand at the right. */
	readonly heads: readonly { readonly text: string; readonly right: boolean }[];
	readonly rows: readonly { readonly kind: 'row' | 'group' | 'total'; readonly cells: readonly string[] }[];
}

/** Lines on paper at most; a longer table goes out as a file. */
export const MOST_PRINTED = 20_000;

const STYLE = `
	@page { margin: 14mm }
	body { font: 9pt 'Source Sans 3', sans-serif; margin: 0 }
	h1 { font-size: 13pt; margin: 0 } p { margin: 0 0 4mm; color: #555 }
	table { border-collapse: collapse; width: 100% } thead { display: table-header-group }
	th { text-align: left; border-bottom: 1pt solid #000 } td, th { padding: 0.6mm 1.5mm; vertical-align: top }
	tr { break-inside: avoid } td { border-bottom: 0.3pt solid #bbb; font-variant-numeric: tabular-nums }
	.right { text-align: right } .group td, .total td { font-weight: 600; border-bottom: 0.6pt solid #000 }`;

/** Prints a table by the browser: on paper, or as a PDF of its own. */
export function printTable({ project, title, heads, rows }: PrintedTable): void {
	const frame = document.createElement('iframe');
	frame.title = `${title}, to be printed`;
	frame.style.cssText = 'position: fixed; width: 0; height: 0; border: 0';
	document.body.append(frame);
	const page = frame.contentDocument!;
	page.title = `${project}: ${title}`;
	const make = <Tag extends keyof HTMLElementTagNameMap>(tag: Tag, parent: Node, text = '', className = '') => {
		const element = parent.appendChild(page.createElement(tag));
		element.textContent = text;
		if (className) element.className = className;
		return element;
	};
	make('style', page.head, STYLE);
	make('h1', page.body, title);
	make('p', page.body, `${project}, ${new Intl.DateTimeFormat('en-GB', { dateStyle: 'long' }).format(new Date())}`);
	const table = make('table', page.body);
	const top = make('tr', make('thead', table));
	for (const { text, right } of heads) make('th', top, text, right ? 'right' : '');
	const body = make('tbody', table);
	for (const { kind, cells } of rows) {
		const line = make('tr', body, '', kind);
		cells.forEach((cell, c) => make('td', line, cell, heads[c]!.right ? 'right' : ''));
	}
	frame.contentWindow!.addEventListener('afterprint', () => frame.remove());
	frame.contentWindow!.print();
}
