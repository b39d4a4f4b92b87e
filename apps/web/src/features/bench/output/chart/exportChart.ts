/** Twice the size on the screen, for print and dense displays. */
const scale = 2;

function save(url: string, file: string): void {
  const link = document.createElement('a');
  link.href = url;
  link.download = file;
  link.click();
}

/** A drawing as a text that needs nothing of the page around it. */
export function svgText(svg: Element): string {
  const copy = svg.cloneNode(true) as Element;
  const { width, height } = svg.getBoundingClientRect();
  copy.setAttribute('xmlns', 'http://www.w3.org/2000/svg');
  copy.setAttribute('width', String(width));
  copy.setAttribute('height', String(height));
  copy.setAttribute('font-family', getComputedStyle(svg).fontFamily);
  return new XMLSerializer().serializeToString(copy);
}

/** Saves the drawing as an SVG file. */
export function exportSvg(svg: Element | null, name: string): void {
  if (svg === null) return;
  const url = URL.createObjectURL(new Blob([svgText(svg)], { type: 'image/svg+xml' }));
  save(url, `${name}.svg`);
  URL.revokeObjectURL(url);
}

/** Saves the drawing as a PNG file on the ground that its colours are for. */
export async function exportPng(svg: Element | null, name: string, ground: string): Promise<void> {
  if (svg === null) return;
  const { width, height } = svg.getBoundingClientRect();
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(svgText(svg))}`;
  await image.decode();
  const canvas = document.createElement('canvas');
  canvas.width = width * scale;
  canvas.height = height * scale;
  const context = canvas.getContext('2d');
  if (context === null) return;
  context.fillStyle = ground;
  context.fillRect(0, 0, canvas.width, canvas.height);
  context.drawImage(image, 0, 0, canvas.width, canvas.height);
  save(canvas.toDataURL('image/png'), `${name}.png`);
}
