// Prints what the validator of the glTF working group says of some files: file and its messages.
import { readFileSync } from "node:fs";
import { dirname, resolve } from "node:path";
import validator from "gltf-validator";

for (const file of process.argv.slice(2)) {
  const report = await validator.validateBytes(new Uint8Array(readFileSync(file)), {
    uri: file,
    externalResourceFunction: (uri) =>
      Promise.resolve(new Uint8Array(readFileSync(resolve(dirname(file), decodeURIComponent(uri))))),
  });
  const said = report.issues.messages.filter((m) => m.severity < 2).map((m) => m.code + " " + m.pointer);
  process.stdout.write(file + "\t" + JSON.stringify(said) + "\n");
}
