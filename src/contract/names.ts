/** Names on the wire are written with underscores (`ec_us_cm`), those of the core in one word (`ecUsCm`). */
export type CamelCase<S extends string> = S extends `${infer A}_${infer B}` ? `${A}${Capitalize<CamelCase<B>>}` : S;

/** `alkalinity_mg_l_caco3` → `alkalinityMgLCaco3` */
export const camelCase = <S extends string>(name: S): CamelCase<S> =>
	name.replace(/_(\w)/g, (_, c: string) => c.toUpperCase()) as CamelCase<S>;

/** `alkalinityMgLCaco3` → `alkalinity_mg_l_caco3` */
export const underscored = (name: string): string => name.replace(/[A-Z]/g, (c) => `_${c.toLowerCase()}`);

export type CamelKeys<T> = { [K in keyof T as K extends string ? CamelCase<K> : K]: T[K] };

/** The same object under the core's names; what lies inside its values is left as it is. */
export const camelKeys = <T extends object>(value: T): CamelKeys<T> =>
	Object.fromEntries(Object.entries(value).map(([k, v]) => [camelCase(k), v])) as CamelKeys<T>;
