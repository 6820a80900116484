const KEY = 'zygaster-tab';
/** So long does a page that was loaded anew wait for the one before it to let go of the tab's name. */
const LEAVING_MS = 2000;
const lockOf = (tab: string) => `zygaster-tab-${tab}`;

/** A number that nobody else has, also where the page is not served securely. RFC 9562, version 4. */
export function newId(): string {
	if ('randomUUID' in crypto) return crypto.randomUUID();
	const bytes = (crypto as Crypto).getRandomValues(new Uint8Array(16));
	bytes[6] = (bytes[6]! & 0x0f) | 0x40;
	bytes[8] = (bytes[8]! & 0x3f) | 0x80;
	const hex = [...bytes].map((b) => b.toString(16).padStart(2, '0')).join('');
	return hex.replace(/^(.{8})(.{4})(.{4})(.{4})(.{12})$/, '$1-$2-$3-$4-$5');
}

let own: Promise<string> | undefined;

/**
 * The name of this tab, the same after a reload. A lock tells other tabs that it is open (Web Locks); a tab that was
 * copied from another one gets a name of its own. Where the browser has no locks, every page is a tab of its own.
 */
export const tabName = (): Promise<string> => (own ??= claim());

async function claim(): Promise<string> {
	const locks = (navigator as { locks?: LockManager }).locks;
	if (!locks) return newId();
	const before = read();
	if (before && (await hold(locks, before, { signal: AbortSignal.timeout(LEAVING_MS) }))) return before;
	const tab = newId();
	await hold(locks, tab, { ifAvailable: true });
	try {
		sessionStorage.setItem(KEY, tab);
	} catch {
		// Forbidden: the tab has another name after a reload, and finds its edits as those of a tab that is gone.
	}
	return tab;
}

function read(): string | null {
	try {
		return sessionStorage.getItem(KEY);
	} catch {
		return null;
	}
}

/** Holds a tab's lock as long as the page is open; false where another page has it. */
const hold = (locks: LockManager, tab: string, how: LockOptions) =>
	new Promise<boolean>((resolve) => {
		locks
			.request(lockOf(tab), how, (lock) => {
				resolve(lock !== null);
				return lock ? new Promise<void>(() => undefined) : undefined;
			})
			.catch(() => resolve(false));
	});

/** Which of some tabs are gone. Without locks none is known to be. */
export async function tabsGone(tabs: readonly string[]): Promise<Set<string>> {
	const locks = (navigator as { locks?: LockManager }).locks;
	if (!locks) return new Set();
	const { held = [] } = await locks.query();
	const open = new Set(held.map((l) => l.name));
	return new Set(tabs.filter((tab) => !open.has(lockOf(tab))));
}
