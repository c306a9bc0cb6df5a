import type { EventDoubt } from '@/core/reading/event-doubt';
import { eventDoubtWords } from '@/words/en/event';
import type { EventBody } from './event-values';

/** Asked before an unlikely amount is kept: yes, what was probably meant, or back to the field. */
export function EventQuestion({
	doubt,
	body,
	name,
	onKeep,
	onBack,
}: {
	doubt: EventDoubt;
	body: EventBody;
	name: string;
	onKeep: (body: EventBody) => void;
	onBack: () => void;
}) {
	const meant = 'meant' in doubt ? doubt.meant : null;
	return (
		<div role="alert" className="border-l-4 border-warning pl-3 py-1 mt-2" data-event-doubt={doubt.code}>
			<p>{eventDoubtWords(doubt, name)}</p>
			<div className="flex flex-wrap gap-2 mt-1">
				{meant && (
					<button type="button" className="act act-main" onClick={() => onKeep({ ...body, ...meant })}>
						It was {meant.amount} {meant.unit}
					</button>
				)}
				<button type="button" className="act !font-normal" onClick={() => onKeep(body)}>
					Yes, {body.amount} {body.unit}
				</button>
				<button type="button" className="act !font-normal !border-transparent" onClick={onBack}>
					Change it
				</button>
			</div>
		</div>
	);
}
