/** Photos and files, from the camera or a folder. */
export function FilePick({ busy, onPick }: { busy: boolean; onPick: (files: readonly File[]) => void }) {
	return (
		<label className="act !font-normal mt-1 cursor-pointer">
			<input
				type="file"
				className="sr-only"
				accept="image/*,.pdf,.txt,.csv"
				multiple
				disabled={busy}
				onChange={(e) => {
					const files = [...(e.target.files ?? [])];
					// The same photo may be chosen once more.
					e.target.value = '';
					if (files.length > 0) onPick(files);
				}}
			/>
			{busy ? 'It is being kept…' : 'Add a photo or file'}
		</label>
	);
}
