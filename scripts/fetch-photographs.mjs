// node scripts/fetch-photographs.mjs FOLDER: real photographs for `npm run bench:faces`, from
// freely licensed packages. Nothing of them is part of this project. Needs Debian's apt-get and
// dpkg, tar and npm.
import { spawnSync } from "node:child_process";
import { cpSync, mkdirSync, mkdtempSync, readdirSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import path from "node:path";

/** Debian's packages, each with the folder of its photographs. */
const DEBIAN = {
  kphotoalbum: ["kphotoalbum", "usr/share/kphotoalbum/demo"],
  dlib: ["libdlib19.1", "usr/share/doc/libdlib19.1/examples/faces"],
  labelme: ["labelme-examples", "usr/share/doc/labelme-examples/examples/semantic_segmentation/data_annotated"],
  opencv: ["opencv-doc", "usr/share/doc/opencv-doc/examples/data"],
  darknet: ["darknet", "usr/share/darknet/data"],
  scratch: ["scratch", "usr/share/scratch/Media/Backgrounds/Outdoors"],
};
const NPM = { "face-api": ["@vladmandic/face-api@1.7.15", "package/demo"] };

const folder = process.argv[2];
if (!folder) {
  console.error("Say where the photographs go: node scripts/fetch-photographs.mjs FOLDER");
  process.exit(2);
}
const work = mkdtempSync(path.join(tmpdir(), "humming-tide-photographs-"));

function run(command, args) {
  const { status, error } = spawnSync(command, args, { cwd: work, stdio: ["ignore", "ignore", "inherit"] });
  if (status !== 0) throw new Error(`${command} ${args.join(" ")} failed${error ? `: ${error.message}` : ""}.`);
}

/** The archive that was fetched last; it goes when it is unpacked. */
function unpacked(ending, unpack) {
  const archive = readdirSync(work).find((name) => name.endsWith(ending));
  mkdirSync(path.join(work, "unpacked"));
  unpack(archive);
  rmSync(path.join(work, archive));
}

function keep(name, place) {
  const to = path.join(folder, name);
  mkdirSync(to, { recursive: true });
  const from = path.join(work, "unpacked", place);
  for (const file of readdirSync(from)) if (file.endsWith(".jpg")) cpSync(path.join(from, file), path.join(to, file));
  rmSync(path.join(work, "unpacked"), { recursive: true });
}

try {
  for (const [name, [debian, place]] of Object.entries(DEBIAN)) {
    run("apt-get", ["download", debian]);
    unpacked(".deb", (archive) => run("dpkg", ["-x", archive, "unpacked"]));
    keep(name, place);
  }
  for (const [name, [npm, place]] of Object.entries(NPM)) {
    run("npm", ["pack", npm, "--silent"]);
    unpacked(".tgz", (archive) => run("tar", ["xzf", archive, "-C", "unpacked"]));
    keep(name, place);
  }
  console.log(`The photographs are in ${folder}`);
} finally {
  rmSync(work, { recursive: true, force: true });
}
