import { withWorkspace, type ClampedSlot, type Workspace } from '../kernels/workspace';
import { createPixelImage, type PixelImage } from './pixelImage';

/**
 * Half the width and height (rounded up), each pixel the mean of the four it covers: the low-pass that keeps fine
 * lines from breaking into stairs.
 */
export const halveImage = (image: PixelImage): PixelImage => withWorkspace(halve, image);

function halve(ws: Workspace, { width, height, channels, data }: PixelImage): PixelImage {
  const out = createPixelImage((width + 1) >> 1, (height + 1) >> 1, channels);
  const stride = width * channels;
  const rowSlot = (): ClampedSlot => ws.clamped(stride + channels);
  const [upper, lower] = [rowSlot(), rowSlot()];
  const halved = ws.clamped(out.width * channels);
  const read = (y: number, into: ClampedSlot): void => {
    into.set(data.subarray(y * stride, (y + 1) * stride));
    // an odd last column is its own neighbour
    into.copyWithin(stride, stride - channels, stride);
  };
  for (let y = 0; y < out.height; y++) {
    read(2 * y, upper);
    read(Math.min(height - 1, 2 * y + 1), lower);
    ws.kernels.halveRows(upper.at, lower.at, channels, out.width, halved.at);
    halved.copyInto(out.data, y * halved.length);
  }
  return out;
}
