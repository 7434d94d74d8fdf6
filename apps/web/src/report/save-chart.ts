import { download } from '../sounding/bounce';

/** How much finer a picture is than its drawing. */
const SCALE = 2;

const textOf = (svg: SVGSVGElement) => new XMLSerializer().serializeToString(svg);

/** Hands out a drawing as it stands. */
export function saveSvg(svg: SVGSVGElement, name: string): void {
  download(`${name}.svg`, textOf(svg), 'image/svg+xml');
}

/** Hands out a drawing as a picture of twice its size. */
export async function savePng(svg: SVGSVGElement, name: string): Promise<void> {
  const { width, height } = svg.viewBox.baseVal;
  const image = new Image();
  image.src = `data:image/svg+xml;charset=utf-8,${encodeURIComponent(textOf(svg))}`;
  await image.decode();
  const canvas = Object.assign(document.createElement('canvas'), {
    width: SCALE * width,
    height: SCALE * height,
  });
  canvas.getContext('2d')!.drawImage(image, 0, 0, canvas.width, canvas.height);
  const blob = await new Promise<Blob | null>((resolve) => {
    canvas.toBlob(resolve, 'image/png');
  });
  if (!blob) throw new Error('the browser could not draw the picture; save it as SVG');
  download(`${name}.png`, blob, 'image/png');
}
