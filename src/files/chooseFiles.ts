/** Opens the device's own picker and gives the files in the order chosen; none when it is closed. */
export function chooseFiles({
  accept,
  multiple = false,
  camera = false,
}: {
  readonly accept: string;
  readonly multiple?: boolean;
  readonly camera?: boolean;
}): Promise<File[]> {
  return new Promise((resolve) => {
    const input = document.createElement('input');
    input.type = 'file';
    input.accept = accept;
    input.multiple = multiple;
    if (camera) input.setAttribute('capture', 'environment');
    input.style.display = 'none';
    document.body.append(input);
    const done = (): void => {
      resolve(Array.from(input.files ?? []));
      input.remove();
    };
    input.addEventListener('change', done, { once: true });
    input.addEventListener('cancel', done, { once: true });
    input.click();
  });
}
