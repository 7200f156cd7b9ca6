import { render, screen, waitFor } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { CodesSeen } from '../../../core/goods/seen.ts';
import { useCamera } from './useCamera.ts';

const NOTHING: CodesSeen = { goods: [], other: null };
const reader = vi.hoisted(() => ({ seen: { goods: [], other: null } as CodesSeen | null, looks: 0 }));
vi.mock('./reader.ts', () => ({
  readPicture: async () => {
    reader.looks++;
    return reader.seen;
  },
}));

/** A camera as a browser has one: how light its picture is, whether it opens, whether it was let go again. */
const camera = { light: 200, fails: null as string | null, stopped: 0 };
beforeEach(() => {
  Object.assign(camera, { light: 200, fails: null, stopped: 0 });
  Object.assign(reader, { seen: NOTHING, looks: 0 });
  vi.stubGlobal('createImageBitmap', async () => ({ close: () => undefined }));
  Object.defineProperty(navigator, 'mediaDevices', {
    configurable: true,
    value: {
      getUserMedia: async () => {
        if (camera.fails !== null) throw new DOMException('no', camera.fails);
        return { getTracks: () => [{ stop: () => camera.stopped++ }] };
      },
    },
  });
  Object.defineProperty(HTMLVideoElement.prototype, 'videoWidth', { configurable: true, get: () => 1280 });
  HTMLVideoElement.prototype.play = async () => undefined;
  HTMLCanvasElement.prototype.getContext = (() => ({
    drawImage: () => undefined,
    getImageData: (_x: number, _y: number, w: number, h: number) => ({
      data: new Uint8ClampedArray(4 * w * h).fill(camera.light),
    }),
  })) as never;
});
afterEach(() => vi.unstubAllGlobals());

const seen: CodesSeen[] = [];
function Camera({ isOn }: { isOn: boolean }) {
  const { video, trouble } = useCamera(isOn, (codes) => seen.push(codes));
  return (
    <>
      <video ref={video} muted />
      <p>{trouble ?? 'fine'}</p>
    </>
  );
}
beforeEach(() => void seen.splice(0));

describe('a camera', () => {
  it('tells what it sees, and is let go when it is wanted no longer', async () => {
    reader.seen = { goods: ['9521000000001'], other: null };
    const page = render(<Camera isOn />);
    await waitFor(() => expect(seen[0]?.goods).toEqual(['9521000000001']));
    page.rerender(<Camera isOn={false} />);
    await waitFor(() => expect(camera.stopped).toBe(1));
    expect(screen.getByText('fine')).toBeTruthy();
  });
  it('that sees nothing says nothing', async () => {
    render(<Camera isOn />);
    await waitFor(() => expect(reader.looks).toBeGreaterThan(2));
    expect(seen).toEqual([]);
    expect(screen.getByText('fine')).toBeTruthy();
  });
  it.each([
    ['NotAllowedError', 'cameraRefused'],
    ['SecurityError', 'cameraRefused'],
    ['NotReadableError', 'cameraBusy'],
    ['NotFoundError', 'cameraMissing'],
  ])('%s is told as %s', async (fails, trouble) => {
    camera.fails = fails;
    render(<Camera isOn />);
    await screen.findByText(trouble);
  });
  it('a device without any is missing one', async () => {
    Object.defineProperty(navigator, 'mediaDevices', { configurable: true, value: undefined });
    render(<Camera isOn />);
    await screen.findByText('cameraMissing');
  });
  it('covered it is dark, and uncovered fine again', async () => {
    camera.light = 2;
    render(<Camera isOn />);
    await screen.findByText('cameraDark', undefined, { timeout: 5000 });
    camera.light = 180;
    await screen.findByText('fine', undefined, { timeout: 5000 });
  });
  it('a reader that cannot be loaded is told', async () => {
    reader.seen = null;
    render(<Camera isOn />);
    await screen.findByText('scanFailed');
  });
});
