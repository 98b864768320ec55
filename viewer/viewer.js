// The viewer of a hand-over note: the shot's GLB, seen through its camera over small plates, or
// turned by hand. Everything it shows is inside the page.
import * as THREE from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';

const INK = 0x1f7a68;
const data = JSON.parse(document.getElementById('viewer-data').textContent);
const box = document.getElementById('viewer');
const canvas = box.querySelector('canvas');
const plate = box.querySelector('img');
const slider = document.getElementById('viewer-frame');
const said = document.getElementById('viewer-said');
const play = document.getElementById('viewer-play');
const turn = document.getElementById('viewer-turn');

function bytes(base64) {
  const text = atob(base64);
  const out = new Uint8Array(text.length);
  for (let i = 0; i < text.length; i++) out[i] = text.charCodeAt(i);
  return out.buffer;
}

/** The lens of a frame: focal length, film width and height, principal point, in millimetres. */
function optics(frame) {
  return data.optics[Math.min(frame - data.first, data.optics.length - 1)];
}

/** The projection that draws the plate: film back and principal point, no symmetric angle. */
function projection(frame, near, far) {
  const [f, w, h, x, y] = optics(frame);
  const a = (far + near) / (near - far);
  const b = (2 * far * near) / (near - far);
  return new THREE.Matrix4().set(
    (2 * f) / w, 0, (-2 * x) / w, 0,
    0, (2 * f) / h, (-2 * y) / h, 0,
    0, 0, a, b,
    0, 0, -1, 0);
}

class Viewer {
  constructor(gltf) {
    this.scene = new THREE.Scene();
    this.scene.add(gltf.scene);
    // A shot far from the origin hangs under one node there. Here it is drawn at the origin: points are
    // 32-bit numbers, which are coarse far out.
    this.origin = new THREE.Vector3();
    if (gltf.scene.children.length === 1) {
      this.origin.copy(gltf.scene.children[0].position);
      gltf.scene.children[0].position.set(0, 0, 0);
    }
    this.scene.add(new THREE.HemisphereLight(0xffffff, 0x777777, 3));
    this.names = [];
    this.trackers = [];
    this.camera = null;
    gltf.scene.traverse((o) => {
      const at = gltf.parser.associations.get(o);
      const node = at && at.nodes !== undefined ? gltf.parser.json.nodes[at.nodes] : null;
      if (o.isCamera) {
        this.camera = this.camera || o;
      } else if (node && node.mesh === undefined && node.camera === undefined && !node.children) {
        this.trackers.push(o);
        this.names.push(node.name);
      } else if (o.isMesh) {
        o.material = new THREE.MeshStandardMaterial({
          color: 0xb9b4a8, transparent: true, opacity: 0.55, side: THREE.DoubleSide });
        o.add(new THREE.LineSegments(
          new THREE.EdgesGeometry(o.geometry), new THREE.LineBasicMaterial({ color: 0x55524a })));
      }
    });
    this.mixer = new THREE.AnimationMixer(gltf.scene);
    gltf.animations.forEach((clip) => this.mixer.clipAction(clip).play());
    this.places = new Float32Array(3 * this.trackers.length);
    const points = new THREE.BufferGeometry();
    points.setAttribute('position', new THREE.BufferAttribute(this.places, 3));
    this.points = new THREE.Points(
      points, new THREE.PointsMaterial({ color: INK, size: 5, sizeAttenuation: false }));
    this.points.frustumCulled = false;
    this.scene.add(this.points);
    this.free = new THREE.PerspectiveCamera(45, data.width / data.height, 0.01, 1e5);
    this.seen = new THREE.Camera();
    this.path = this.drawPath();
    this.renderer = new THREE.WebGLRenderer({ canvas, alpha: true, antialias: true });
    this.turning = false;
    this.frame = data.first;
    this.controls = new OrbitControls(this.free, canvas);
    this.controls.addEventListener('change', () => this.draw());
    this.controls.enabled = false;
    this.size();
    new ResizeObserver(() => this.size()).observe(box);
    this.show(data.first);
    this.home();
  }

  /** Where the camera goes, as a line. */
  drawPath() {
    const at = [];
    for (let f = data.first; f <= data.last; f++) {
      this.pose(f);
      at.push(new THREE.Vector3().setFromMatrixPosition(this.camera.matrixWorld));
    }
    const line = new THREE.Line(
      new THREE.BufferGeometry().setFromPoints(at), new THREE.LineBasicMaterial({ color: 0xb5651d }));
    line.visible = false;
    this.scene.add(line);
    this.body = new THREE.LineSegments(
      new THREE.BufferGeometry(), new THREE.LineBasicMaterial({ color: 0xb5651d }));
    this.body.visible = false;
    this.body.frustumCulled = false;
    this.scene.add(this.body);
    return line;
  }

  pose(frame) {
    this.mixer.setTime(((frame - data.first) * data.rateDen) / data.rateNum);
    this.scene.updateMatrixWorld(true);
  }

  /** The first look from outside: the whole scene from behind the camera and above. */
  home() {
    const box3 = new THREE.Box3().setFromBufferAttribute(this.points.geometry.attributes.position);
    const eye = new THREE.Vector3().setFromMatrixPosition(this.camera.matrixWorld);
    box3.expandByPoint(eye);
    const centre = box3.getCenter(new THREE.Vector3());
    const size = Math.max(box3.getSize(new THREE.Vector3()).length(), 0.1);
    const away = eye.clone().sub(centre);
    if (away.length() < 1e-6) away.set(0, 0, 1);
    this.free.position.copy(centre).addScaledVector(away.normalize(), size * 0.8);
    this.free.position.y += size * 0.3;
    this.free.near = size / 1000;
    this.free.far = size * 50;
    this.free.updateProjectionMatrix();
    this.controls.target.copy(centre);
    this.controls.update();
    // The ground of a levelled shot, in whole metres, tens or tenths.
    const cell = 10 ** Math.floor(Math.log10(size / 5));
    const cells = 2 * Math.ceil(size / cell / 2);
    this.ground = new THREE.GridHelper(cells * cell, cells, 0xa9a69c, 0xcfccc3);
    this.ground.position.set(
      Math.round(centre.x / cell) * cell, -this.origin.y, Math.round(centre.z / cell) * cell);
    this.ground.visible = false;
    this.scene.add(this.ground);
  }

  size() {
    const w = box.clientWidth;
    const h = Math.round((w * data.height) / (data.width * data.pixelAspect));
    this.renderer.setPixelRatio(window.devicePixelRatio);
    this.renderer.setSize(w, h, false);
    this.free.aspect = w / h;
    this.free.updateProjectionMatrix();
    this.draw();
  }

  show(frame) {
    this.frame = frame;
    this.pose(frame);
    const v = new THREE.Vector3();
    this.trackers.forEach((t, i) => v.setFromMatrixPosition(t.matrixWorld).toArray(this.places, 3 * i));
    this.points.geometry.attributes.position.needsUpdate = true;
    this.points.geometry.boundingSphere = null;
    this.seen.matrixWorld.copy(this.camera.matrixWorld);
    this.seen.matrixWorldInverse.copy(this.camera.matrixWorld).invert();
    this.seen.matrixWorldAutoUpdate = false;
    this.seen.matrixAutoUpdate = false;
    const near = this.camera.near || 0.01;
    this.seen.projectionMatrix.copy(projection(frame, near, Math.max(this.camera.far || 0, near * 1e5)));
    this.seen.projectionMatrixInverse.copy(this.seen.projectionMatrix).invert();
    const picture = data.plates[String(frame)];
    plate.hidden = !picture || this.turning;
    if (picture) plate.src = picture;
    slider.value = String(frame);
    said.textContent = 'frame ' + frame + (picture || !data.step ? '' : ', no plate');
    this.frustum();
    this.draw();
  }

  /** The camera's body when it is looked at from outside. */
  frustum() {
    const inverse = this.seen.projectionMatrixInverse;
    const eye = new THREE.Vector3().setFromMatrixPosition(this.seen.matrixWorld);
    const reach = this.controls ? eye.distanceTo(this.controls.target) * 0.2 : 1;
    const corners = [[-1, -1], [1, -1], [1, 1], [-1, 1]].map(([x, y]) => {
      const c = new THREE.Vector3(x, y, -1).applyMatrix4(inverse).normalize();
      return c.multiplyScalar(reach / -c.z).applyMatrix4(this.seen.matrixWorld);
    });
    const at = [];
    corners.forEach((c, i) => at.push(eye, c, c, corners[(i + 1) % 4]));
    this.body.geometry.setFromPoints(at);
  }

  draw() {
    if (this.renderer) this.renderer.render(this.scene, this.turning ? this.free : this.seen);
  }

  turned(on) {
    this.turning = on;
    this.controls.enabled = on;
    this.path.visible = on;
    this.body.visible = on;
    this.ground.visible = on;
    box.classList.toggle('turning', on);
    turn.textContent = on ? 'Through the camera' : 'Turn the scene';
    this.show(this.frame);
  }

  /** Where every tracker is seen at a frame, in pixels of the plate; null behind the camera. */
  pixels(frame) {
    this.show(frame);
    const out = {};
    const p = new THREE.Vector4();
    this.names.forEach((name, i) => {
      p.set(this.places[3 * i], this.places[3 * i + 1], this.places[3 * i + 2], 1)
        .applyMatrix4(this.seen.matrixWorldInverse)
        .applyMatrix4(this.seen.projectionMatrix);
      out[name] = p.w > 0
        ? [(p.x / p.w / 2 + 0.5) * data.width, (0.5 - p.y / p.w / 2) * data.height]
        : null;
    });
    return out;
  }
}

let viewer = null;
let timer = 0;

function stop() {
  clearInterval(timer);
  timer = 0;
  play.textContent = 'Play';
}

function step(by) {
  const every = Math.max(1, data.step);
  let next = viewer.frame + by * every;
  if (next > data.last) next = data.first;
  if (next < data.first) next = data.last;
  viewer.show(next);
}

function ready() {
  slider.addEventListener('input', () => { stop(); viewer.show(Number(slider.value)); });
  turn.addEventListener('click', () => viewer.turned(!viewer.turning));
  play.addEventListener('click', () => {
    if (timer) { stop(); return; }
    const every = (1000 * data.rateDen * Math.max(1, data.step)) / data.rateNum;
    timer = setInterval(() => step(1), every);
    play.textContent = 'Stop';
  });
}

try {
  new GLTFLoader().parse(bytes(data.glb), '', (gltf) => {
    viewer = new Viewer(gltf);
    window.flarvoViewer = viewer;
    ready();
  }, (e) => { said.textContent = 'The scene could not be opened: ' + e; });
} catch (e) {
  said.textContent = 'This browser cannot draw in 3D (' + e.message + '); everything else of this page stands.';
}
