// Best time in milliseconds that a library for glTF takes to write again what is in a file, from memory to disk, forced to it as every file of ours is.
import { closeSync, fsyncSync, openSync, rmSync } from "node:fs";
import { NodeIO } from "@gltf-transform/core";

const file = process.argv[2];
const again = file.replace(/(\.\w+)$/, ".again$1");
const io = new NodeIO();
const document = await io.read(file);
let best = Infinity;
for (let i = 0; i < 8; i++) {
  const begun = performance.now();
  await io.write(again, document);
  const written = openSync(again, "r");
  fsyncSync(written);
  closeSync(written);
  best = Math.min(best, performance.now() - begun);
}
rmSync(again);
process.stdout.write(best.toFixed(3));
