import { savePage } from './save-page';

/** Keeps the part of the page that it stands in as a file of its own. */
export function KeepFile({
	part,
	title,
	name,
}: {
	/** Finds the part, outward from the button. */
	part: string;
	title: string;
	/** Of the file. */
	name: string;
}) {
	return (
		<button
			type="button"
			className="act !font-normal no-print"
			data-keep-file
			onClick={(e) => savePage(e.currentTarget.closest<HTMLElement>(part)!, title, name)}
		>
			Keep as a file
		</button>
	);
}
