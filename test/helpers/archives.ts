import AdmZip from "adm-zip";

type Content = string | Uint8Array;

/** Files in which what has `!/` in its path (`libs/a.aar!/AndroidManifest.xml`) is in an archive, unless that is given as a whole. */
export function packed(files: Readonly<Record<string, Content>>): Record<string, Content> {
  const result: Record<string, Content> = {};
  const archives = new Map<string, Record<string, Content>>();
  for (const [path, content] of Object.entries(files)) {
    const at = path.indexOf("!/");
    if (at === -1) result[path] = content;
    else {
      const archive = path.slice(0, at);
      archives.set(archive, { ...archives.get(archive), [path.slice(at + 2)]: content });
    }
  }
  for (const [archive, inside] of archives) result[archive] ??= zip(packed(inside));
  return result;
}

/** An archive with these files. */
export function zip(files: Readonly<Record<string, Content>>): Buffer {
  const made = new AdmZip();
  for (const [path, content] of Object.entries(files)) made.addFile(path, Buffer.from(content));
  return made.toBuffer();
}
