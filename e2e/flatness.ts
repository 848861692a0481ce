import sharp from 'sharp';

const WIDTH_PX = 700;
const BLOCK_PX = 64;
const REACH_PX = 24;
/** Blocks with less ink than this have no place to be found by: ruled squares alone look the same one square on. */
const LEAST_DEVIATION = 14;

/**
 * How far the ink of a rendered page lies from where it lies on the clean page, as the mean over blocks with ink.
 * Both are laid over each other block by block; the best correlation tells the block's displacement.
 * @returns mm on the paper
 */
export async function meanDisplacementMm(rendered: Buffer, clean: Buffer, pageWidthMm: number): Promise<number> {
  const { height: cleanHeight, width: cleanWidth } = await sharp(clean).metadata();
  const height = Math.round((WIDTH_PX * cleanHeight) / cleanWidth);
  const read = async (picture: Buffer): Promise<Float32Array> => {
    const grey = await sharp(picture)
      .flatten({ background: '#fff' })
      .greyscale()
      .resize(WIDTH_PX, height, { fit: 'fill' })
      .raw()
      .toBuffer();
    const soft = await sharp(picture)
      .flatten({ background: '#fff' })
      .greyscale()
      .resize(WIDTH_PX, height, { fit: 'fill' })
      .blur(12)
      .raw()
      .toBuffer();
    return Float32Array.from(grey, (v, i) => soft[i]! - v);
  };
  const [ink, truth] = await Promise.all([read(rendered), read(clean)]);
  const off: number[] = [];
  for (let y = REACH_PX; y + BLOCK_PX + REACH_PX <= height; y += BLOCK_PX) {
    for (let x = REACH_PX; x + BLOCK_PX + REACH_PX <= WIDTH_PX; x += BLOCK_PX) {
      if (deviation(truth, x, y) < LEAST_DEVIATION) continue;
      let best = { score: 0, dx: 0, dy: 0 };
      for (let dy = -REACH_PX; dy <= REACH_PX; dy += 1) {
        for (let dx = -REACH_PX; dx <= REACH_PX; dx += 1) {
          const score = correlation(truth, ink, x, y, dx, dy);
          if (score > best.score) best = { score, dx, dy };
        }
      }
      if (best.score > 0.45) off.push(Math.hypot(best.dx, best.dy));
    }
  }
  if (off.length < 6) throw new Error(`only ${off.length} blocks could be found again`);
  return (off.reduce((p, q) => p + q, 0) / off.length) * (pageWidthMm / WIDTH_PX);
}

function deviation(values: Float32Array, x0: number, y0: number): number {
  let sum = 0;
  let squares = 0;
  for (let y = y0; y < y0 + BLOCK_PX; y++) {
    for (let x = x0; x < x0 + BLOCK_PX; x++) {
      sum += values[y * WIDTH_PX + x]!;
      squares += values[y * WIDTH_PX + x]! ** 2;
    }
  }
  const n = BLOCK_PX ** 2;
  return Math.sqrt(Math.max(0, squares / n - (sum / n) ** 2));
}

function correlation(a: Float32Array, b: Float32Array, x0: number, y0: number, dx: number, dy: number): number {
  let ab = 0;
  let aa = 0;
  let bb = 0;
  for (let y = y0; y < y0 + BLOCK_PX; y += 2) {
    for (let x = x0; x < x0 + BLOCK_PX; x += 2) {
      const p = a[y * WIDTH_PX + x]!;
      const q = b[(y + dy) * WIDTH_PX + x + dx]!;
      ab += p * q;
      aa += p * p;
      bb += q * q;
    }
  }
  return ab / Math.sqrt(aa * bb + 1e-6);
}
