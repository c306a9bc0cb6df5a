import pg from 'pg';

/** What a piece of work asks of the database: every statement it sends, but for the frame of its transaction. */
export async function queriesOf(work: () => Promise<unknown>): Promise<string[]> {
	const sent: string[] = [];
	const query = pg.Client.prototype.query;
	pg.Client.prototype.query = function (this: pg.Client, ...given: Parameters<typeof query>) {
		const asked: unknown = given[0];
		const text = typeof asked === 'string' ? asked : String((asked as { text?: string }).text ?? '');
		if (!/^(BEGIN|COMMIT)$/.test(text)) sent.push(text.replace(/\s+/g, ' ').slice(0, 120));
		return query.apply(this, given);
	} as typeof query;
	try {
		await work();
	} finally {
		pg.Client.prototype.query = query;
	}
	return sent;
}
