// Part of the service worker: what a phone's share sheet sends is laid down on the device, line or no line, until the app takes
// it up (src/photos/sharedFiles.ts). Names and paths here are those of the manifest and of that file.
self.addEventListener('fetch', (event) => {
  const { method, url } = event.request;
  if (method === 'POST' && new URL(url).pathname === '/share') event.respondWith(layDown(event.request));
});

async function layDown(request) {
  try {
    const form = await request.formData();
    const files = form.getAll('files').filter((part) => part instanceof File);
    const shelf = await caches.open('fotoplan-shared');
    const at = Date.now();
    for (const [i, file] of files.entries()) {
      const headers = {
        'content-type': file.type,
        'x-name': encodeURIComponent(file.name),
        'x-modified': String(file.lastModified),
      };
      await shelf.put(`/shared/${at}-${String(i).padStart(4, '0')}`, new Response(file, { headers }));
    }
    return Response.redirect('/shared', 303);
  } catch {
    // no room, or half a form
    return Response.redirect('/shared?missed=1', 303);
  }
}
