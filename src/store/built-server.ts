/**
 * The folder of the built server, which keeps beside it what it needs at run time (ops/bootstrap.mjs puts it there); null where nothing
 * was built, as while somebody works on the pages.
 * @param here where the asking file lies
 */
export const builtServer = (here: string): string | null =>
	/^(.*[/\\]dist[/\\]server)(?:[/\\]|$)/.exec(here)?.[1] ?? null;
