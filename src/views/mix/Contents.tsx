import type { KnownWater } from '@/contract/pages';
import { type Content, NUTRIENT_KEYS, nitrogenOf, sumOf } from '@/core/mix/feed/content';
import { NUTRIENT_WORDS } from '@/words/en/label';

/** Shown where there is any of it. */
const LEAST_MG_L = 0.005;
/** Sulfate is written as sulfur by most who plan a feed. */
const SULFUR_IN_SULFATE = 32.06 / 96.06;

const digits = (v: number): string => (v >= 100 ? v.toFixed(0) : v >= 10 ? v.toFixed(1) : v.toFixed(2));

/** What each litre holds: by the labels of what is poured, and with what the water brings where a laboratory has said it. */
export function Contents({
	feed,
	water,
	quiet = false,
}: {
	feed: Content | null;
	water: KnownWater | undefined;
	/** Nothing is said where the labels are not known. */
	quiet?: boolean;
}) {
	if (feed === null)
		return quiet ? null : (
			<p className="text-soft text-[0.9rem] mt-1">
				What is in each litre can be said once the labels are known: under products, “what the label says is in it”.
			</p>
		);
	const ions = water?.ions ?? null;
	const whole = sumOf([
		[feed, 1],
		[ions ?? {}, 1],
	]);
	const rows: { name: string; of: (c: Content) => number }[] = [
		{ name: 'N in all', of: nitrogenOf },
		...NUTRIENT_KEYS.filter((k) => (whole[k] ?? 0) >= LEAST_MG_L).map((k) => ({
			name: k === 'so4_mg_l' ? 'S (as sulfate)' : NUTRIENT_WORDS[k]!,
			of: (c: Content) => (c[k] ?? 0) * (k === 'so4_mg_l' ? SULFUR_IN_SULFATE : 1),
		})),
	];
	return (
		<details className="mt-1" data-contents>
			<summary className="cursor-pointer min-h-8">what each litre then holds</summary>
			<table className="text-[0.92rem]">
				<caption className="sr-only">What each litre holds, in mg</caption>
				<thead>
					<tr>
						<th className="pr-5">mg/L</th>
						<th className="pr-5 text-right">from the feed</th>
						{ions && <th className="pr-5 text-right">from {water!.name}</th>}
						{ions && <th className="text-right">together</th>}
					</tr>
				</thead>
				<tbody>
					{rows.map((r) => (
						<tr key={r.name} className="border-t border-line">
							<th scope="row" className="!text-base-content !text-[0.92rem] pr-5">
								{r.name}
							</th>
							<td className="pr-5 text-right">{digits(r.of(feed))}</td>
							{ions && <td className="pr-5 text-right">{digits(r.of(ions))}</td>}
							{ions && <td className="text-right">{digits(r.of(whole))}</td>}
						</tr>
					))}
				</tbody>
			</table>
			{!ions && water && (
				<p className="text-soft text-[0.9rem]">
					Of {water.name} there is no laboratory report: what it brings is not in it.
				</p>
			)}
		</details>
	);
}
