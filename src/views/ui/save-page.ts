const STYLE = `body{font:15px/1.45 system-ui,sans-serif;color:#000;background:#fff;max-width:60rem;margin:2rem auto;padding:0 1rem}
table{border-collapse:collapse;width:100%}th,td{text-align:left;padding:2px 10px 2px 0;border-top:1px solid #999;vertical-align:top}
h1{font-size:1.4rem}h2{font-size:1.05rem;border-top:2px solid #000;padding-top:.4rem}ul{padding-left:1.1rem}img{max-width:15rem}
[data-sheet] th,[data-sheet] td{border:1px solid #000;height:2.6rem}`;

/** A picture of the page as it stands in a file of its own, waited for where it is still on its way; without what cannot be drawn. */
async function inFile(img: HTMLImageElement): Promise<string> {
	img.loading = 'eager';
	await img.decode().catch(() => undefined);
	const canvas = document.createElement('canvas');
	canvas.width = img.naturalWidth;
	canvas.height = img.naturalHeight;
	if (canvas.width === 0) return '';
	canvas.getContext('2d')?.drawImage(img, 0, 0);
	return canvas.toDataURL('image/jpeg', 0.85);
}

/**
 * A part of this page as a file of its own, black on white, that any browser opens and prints: without what is only for the screen,
 * with its pictures.
 */
export async function savePage(part: HTMLElement, title: string, name: string): Promise<void> {
	const pictures = await Promise.all([...part.querySelectorAll('img')].map(inFile));
	const copy = part.cloneNode(true) as HTMLElement;
	for (const [i, el] of [...copy.querySelectorAll('img')].entries()) el.src = pictures[i] ?? '';
	for (const el of copy.querySelectorAll('.no-print')) el.remove();
	for (const el of copy.querySelectorAll('button, a')) el.replaceWith(...el.childNodes);
	for (const el of copy.querySelectorAll('*')) el.removeAttribute('class');
	const head = document.createElement('title');
	head.textContent = title;
	const mark = part.hasAttribute('data-sheet') ? ' data-sheet' : '';
	const page = `<!doctype html><html lang="en"><head><meta charset="utf-8">${head.outerHTML}<style>${STYLE}</style></head><body${mark}>${copy.innerHTML}</body></html>`;
	const link = document.createElement('a');
	link.href = URL.createObjectURL(new Blob([page], { type: 'text/html' }));
	link.download = name;
	link.click();
	URL.revokeObjectURL(link.href);
}
