/** The plan on paper, with a box for what each step showed. */
export function BatchSheet({ title, rows }: { title: string; rows: readonly (readonly [string, string])[] }) {
	return (
		<div className="hidden print:block mt-4">
			<p className="font-bold">{title}</p>
			<p>Gloves and eye protection. Never concentrate on concentrate; acid into water, never the reverse.</p>
			<table className="w-full border-collapse mt-2">
				<tbody>
					{rows.map(([what, unit], i) => (
						<tr key={`${i}${what}`} className="h-12">
							<th scope="row" className="border border-base-content px-2 !text-base-content !text-[1rem]">
								{what}
							</th>
							<td className="border border-base-content w-40 px-2 text-right text-soft align-bottom">{unit}</td>
							<td className="border border-base-content w-32 px-2 text-soft align-bottom">at</td>
						</tr>
					))}
				</tbody>
			</table>
		</div>
	);
}
