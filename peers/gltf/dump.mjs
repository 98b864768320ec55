// Prints where every node of some glTF files is on every frame, and where their loose points and
// those of faces are on the first: file, kind, node, frame and numbers.
import { readFileSync } from "node:fs";
import { AnimationMixer, LoadingManager, LoopOnce, Vector3 } from "three";
import { GLTFLoader } from "three/examples/jsm/loaders/GLTFLoader.js";

globalThis.self = globalThis;
globalThis.ProgressEvent ??= class extends Event {};
const [rate, first, last] = process.argv.slice(2, 5).map(Number);

function say(...words) {
  process.stdout.write(words.join("\t") + "\n");
}

function corners(file, mesh) {
  const at = mesh.geometry.getAttribute("position");
  const index = mesh.isPoints ? mesh.geometry.getIndex() : null; // of faces, every point
  const v = new Vector3();
  const count = index ? index.count : at.count;
  for (let i = 0; i < count; i++) {
    v.fromBufferAttribute(at, index ? index.getX(i) : i).applyMatrix4(mesh.matrixWorld);
    say(file, mesh.isPoints ? "point" : "corner", mesh.userData.name ?? mesh.name, i, v.x, v.y, v.z);
  }
}

for (const file of process.argv.slice(5)) {
  const text = readFileSync(file);
  const gltf = await new Promise((ok, fail) =>
    new GLTFLoader(new LoadingManager()).parse(
      text.buffer.slice(text.byteOffset, text.byteOffset + text.byteLength), "", ok, fail));
  const mixer = new AnimationMixer(gltf.scene);
  const action = gltf.animations.length > 0 ? mixer.clipAction(gltf.animations[0]) : null;
  for (let frame = first; frame <= last; frame++) {
    if (action) {
      action.reset().setLoop(LoopOnce, 1).play();
      action.clampWhenFinished = true; // else it starts anew after its last key
    }
    mixer.setTime(Math.fround(frame / rate)); // as keys are stored, so that steps are met
    gltf.scene.updateMatrixWorld(true);
    gltf.scene.traverse((n) => {
      if (n !== gltf.scene) say(file, "node", n.userData.name ?? n.name, frame, ...n.matrixWorld.elements);
    });
    if (frame === first) gltf.scene.traverse((n) => { if (n.isMesh || n.isPoints) corners(file, n); });
  }
}
