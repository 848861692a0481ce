import { act, renderHook, waitFor } from '@testing-library/react';
import { useFileDrop } from './useFileDrop';

const photo = new File(['x'], 'page.jpg', { type: 'image/jpeg' });

/** What a browser tells of something held or dropped over the window; jsdom has no such events of its own. */
function drag(type: string, files: readonly File[] | null, leftWindow = false): Event {
  const event = new Event(type, { bubbles: true, cancelable: true });
  Object.assign(event, { dataTransfer: { types: files === null ? ['text/plain'] : ['Files'], files: files ?? [] } });
  Object.defineProperty(event, 'relatedTarget', { value: leftWindow ? null : document.body });
  act(() => void window.dispatchEvent(event));
  return event;
}
function paste(files: readonly File[]): Event {
  const event = new Event('paste', { cancelable: true });
  Object.assign(event, { clipboardData: { files } });
  act(() => void window.dispatchEvent(event));
  return event;
}

describe('files held over the screen', () => {
  const listen = () => {
    const onFiles = jest.fn();
    return { onFiles, ...renderHook(() => useFileDrop(onFiles)) };
  };

  it('are shown while they are held, and not once they have left the window', () => {
    const { result } = listen();
    expect(result.current).toBe(false);
    // without that the browser would open the photo instead of the app
    expect(drag('dragover', [photo]).defaultPrevented).toBe(true);
    expect(result.current).toBe(true);
    drag('dragleave', [photo]);
    expect(result.current).toBe(true);
    drag('dragleave', [photo], true);
    expect(result.current).toBe(false);
  });

  it('are taken when they are dropped or pasted', async () => {
    const { result, onFiles } = listen();
    drag('dragover', [photo]);
    expect(drag('drop', [photo]).defaultPrevented).toBe(true);
    expect(result.current).toBe(false);
    await waitFor(() => expect(onFiles).toHaveBeenLastCalledWith({ files: [photo], leftOut: [] }));
    expect(paste([photo, photo]).defaultPrevented).toBe(true);
    expect(onFiles).toHaveBeenLastCalledWith({ files: [photo, photo], leftOut: [] });
  });

  it('are only files: text may be dragged and pasted as ever', () => {
    const { result, onFiles } = listen();
    expect(drag('dragover', null).defaultPrevented).toBe(false);
    expect(drag('drop', null).defaultPrevented).toBe(false);
    expect(paste([]).defaultPrevented).toBe(false);
    expect(result.current).toBe(false);
    expect(onFiles).not.toHaveBeenCalled();
  });

  it('are nobody’s once the screen is left', () => {
    const { onFiles, unmount } = listen();
    unmount();
    drag('drop', [photo]);
    expect(onFiles).not.toHaveBeenCalled();
  });
});
