import type { ProbeStory } from '@/contract/probes';
import { usualProtocol } from '@/core/reading/protocol';
import { stepsHere } from '@/words/en/protocol';
import { day, offWords, STORAGE } from './words';

/** A card to hang beside the pen: what it is, how it is read, kept and calibrated. On paper alone. */
export function CareCard({ story, zone }: { story: ProbeStory; zone: string }) {
	const ph = story.quantity === 'ph';
	const kind = story.kind === 'ph' || story.kind === 'ec' ? story.kind : 'combined';
	const steps = stepsHere(null, usualProtocol('reservoir', kind, false));
	return (
		<section className="hidden print:block border-2 border-black p-4 max-w-[14cm] text-[0.95rem]" data-care-card>
			<h1 className="!text-[1.4rem]">
				{story.name}, {ph ? 'pH' : 'EC'}
			</h1>
			<p>
				{story.serial && `Serial ${story.serial}. `}
				{story.in_service && `In service since ${day(story.in_service, 'UTC')}. `}
				{story.last_at ? `Calibrated ${day(story.last_at, zone)}` : 'Not calibrated here yet'}
				{story.due_at && `, next ${day(story.due_at, zone)}`}. That day a reading was {offWords(story)}.
			</p>
			<h2 className="mt-2">To read</h2>
			<ol className="list-decimal pl-5">
				{steps.map((s) => (
					<li key={s.code}>{s.text}</li>
				))}
			</ol>
			<h2 className="mt-2">To keep</h2>
			<p>
				{story.storage ? `In ${STORAGE[story.storage]}` : ph ? 'Wet, in storage solution' : 'Dry and clean'}
				{ph
					? '; renew the solution every month. Never dry, never in pure water: rinse with it, no more. Shake, never wipe.'
					: '. Rinse after every use; lime comes off with vinegar, then rinse well.'}
			</p>
			<h2 className="mt-2">To calibrate</h2>
			<p>
				{ph
					? 'Fresh buffer in a clean cup, rinse and shake before each: read the 7, then the 4, before touching anything; write both down; adjust; read again. Pour nothing back.'
					: 'Fresh standard in a clean cup, rinsed with a little of it first: read, write it down, adjust, read again. Pour nothing back.'}
			</p>
			{ph && (
				<p className="mt-2">
					<strong>Dried out?</strong> Storage solution for some hours, best over night; then two buffers, and compare
					the slope.
				</p>
			)}
			<p className="mt-2 text-[0.85rem]">
				Keep buffers and solutions from children and food. The maker’s own instructions come first.
			</p>
		</section>
	);
}
