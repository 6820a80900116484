/** How many rows each of our tables has, and a sum over all of them, whatever their order. */
export async function sumsOf(client) {
	const { rows: tables } = await client.query(
		`select tablename as name from pg_tables where schemaname = 'public' order by tablename`
	);
	const sums = {};
	for (const { name } of tables) {
		const { rows } = await client.query(
			`select count(*)::int as rows, coalesce(md5(string_agg(sum, '' order by sum)), '') as sum
			from (select md5(t::text) as sum from public."${name}" t) each`
		);
		sums[name] = rows[0];
	}
	return sums;
}

/** The tables in which two states differ, in words; none where they are the same. */
export function differencesOf(before, after) {
	return [...new Set([...Object.keys(before), ...Object.keys(after)])].sort().flatMap((name) => {
		const [a, b] = [before[name], after[name]];
		if (!a) return [`${name} was not there`];
		if (!b) return [`${name} is missing`];
		if (a.rows !== b.rows) return [`${name} had ${a.rows} rows and has ${b.rows}`];
		return a.sum === b.sum ? [] : [`${name} has other values`];
	});
}
