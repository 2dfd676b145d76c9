import { isSystemFile, naturalOrder } from "@humming-tide/core/show";

/** A file with the folders that it lay in, as the person's machine names them. */
export interface FileWithPath {
  readonly file: File;
  readonly path: string;
}

/**
 * Files of a drop, with those inside dropped folders at any depth, in the order of their paths.
 * Hidden files, and what systems leave there, are passed over.
 */
export async function droppedFiles(transfer: DataTransfer): Promise<FileWithPath[]> {
  // The list of entries is gone as soon as this function first waits.
  const entries = [...transfer.items].map((item) => item.webkitGetAsEntry()).filter((entry) => entry !== null);
  const plain = [...transfer.files];
  const found = (await Promise.all(entries.map((entry) => filesOf(entry, "")))).flat();
  return inOrder(found.length > 0 ? found : plain.map((file) => ({ file, path: file.name })));
}

/** Files of a file dialog; from a folder dialog they bring their paths along. */
export const chosenFiles = (list: FileList | null): FileWithPath[] =>
  inOrder([...(list ?? [])].map((file) => ({ file, path: file.webkitRelativePath || file.name }))).filter(
    ({ path }) => !isSystemFile(path),
  );

const inOrder = (files: FileWithPath[]): FileWithPath[] => files.sort((a, b) => naturalOrder(a.path, b.path));

async function filesOf(entry: FileSystemEntry, folder: string): Promise<FileWithPath[]> {
  if (isSystemFile(entry.name)) return [];
  const path = `${folder}${entry.name}`;
  if (entry.isFile) {
    const file = await new Promise<File>((resolve, reject) => (entry as FileSystemFileEntry).file(resolve, reject));
    return [{ file, path }];
  }
  const reader = (entry as FileSystemDirectoryEntry).createReader();
  const found: FileSystemEntry[] = [];
  for (;;) {
    // A directory gives its entries in parts and ends with an empty one.
    const part = await new Promise<FileSystemEntry[]>((resolve, reject) => reader.readEntries(resolve, reject));
    if (part.length === 0) break;
    found.push(...part);
  }
  return (await Promise.all(found.map((inner) => filesOf(inner, `${path}/`)))).flat();
}
