/** The part in three dimensions, drawn by three.js, which is loaded with this view alone. */

import * as THREE from 'three';
import { OrbitControls } from 'three/examples/jsm/controls/OrbitControls.js';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import { toCreasedNormals } from 'three/examples/jsm/utils/BufferGeometryUtils.js';

export type Side = 'slant' | 'front' | 'top' | 'right' | 'back';
export interface Measured {
  /** mm between two places, and along x, y and z of the part. */
  length: number;
  along: readonly [number, number, number];
}

/** From where each side is looked at, z up. */
const FROM: Record<Side, readonly [number, number, number]> = {
  slant: [0.45, -0.75, 0.6],
  front: [0, -1, 0],
  top: [0, -0.001, 1],
  right: [1, 0, 0],
  back: [0, 1, 0],
};
const CREASE = Math.PI / 7;
const FIELD = 30;
const MM = 1000;
const STEP = Math.PI / 24;

/** Whether two boxes are about as large, and in one place: then a part is seen as it was before. */
function alike(one: THREE.Box3, other: THREE.Box3): boolean {
  const [first, second] = [one, other].map((box) => box.getSize(new THREE.Vector3()).length());
  const apart = one.getCenter(new THREE.Vector3()).distanceTo(other.getCenter(new THREE.Vector3()));
  return Math.max(first!, second!) < 1.4 * Math.min(first!, second!) && apart < 0.5 * second!;
}

export class PartDrawing {
  readonly #renderer: THREE.WebGLRenderer;
  readonly #scene = new THREE.Scene();
  readonly #camera = new THREE.PerspectiveCamera(FIELD, 1, 0.1, 10000);
  readonly #controls: OrbitControls;
  readonly #part = new THREE.Group();
  readonly #marks = new THREE.Group();
  readonly #plane = new THREE.Plane(new THREE.Vector3(0, 0, -1), 0);
  readonly #loader = new GLTFLoader();
  #box = new THREE.Box3();
  #first: THREE.Vector3 | undefined;
  #asked = 0;
  #shown = 0;
  #waiting = false;

  /** Fails where the browser has no WebGL. */
  constructor(
    canvas: HTMLCanvasElement,
    private readonly measured: (found: Measured | undefined) => void,
  ) {
    this.#renderer = new THREE.WebGLRenderer({ canvas, antialias: true, alpha: true });
    this.#renderer.localClippingEnabled = true;
    this.#camera.up.set(0, 0, 1);
    this.#controls = new OrbitControls(this.#camera, canvas);
    this.#controls.addEventListener('change', this.draw);
    // Light that grazes the part shows its relief; it comes with the eye.
    const key = new THREE.DirectionalLight(0xffffff, 3.4);
    key.position.set(-0.9, 0.75, 0.3);
    const fill = new THREE.DirectionalLight(0xdfe8f2, 0.45);
    fill.position.set(0.9, -0.3, 0.6);
    this.#camera.add(key, fill);
    this.#scene.add(this.#camera, new THREE.HemisphereLight(0xffffff, 0x8a8474, 0.9), this.#part, this.#marks);
  }

  /** Show a part; an answer that has been overtaken is let go. */
  async show(glb: ArrayBuffer, keepView: boolean): Promise<void> {
    const mine = ++this.#asked;
    const { scene } = await this.#loader.parseAsync(glb, '');
    if (mine < this.#shown) return;
    this.#shown = mine;
    this.#empty(this.#part);
    scene.traverse((one) => {
      if (!(one instanceof THREE.Mesh)) return;
      const { color } = one.material as THREE.MeshStandardMaterial;
      const geometry = toCreasedNormals(one.geometry as THREE.BufferGeometry, CREASE);
      const material = new THREE.MeshStandardMaterial({ color, roughness: 0.62, metalness: 0.15, side: THREE.DoubleSide });
      this.#part.add(new THREE.Mesh(geometry, material));
    });
    // Files have metres with y up; here it is mm with z up.
    this.#part.rotation.set(Math.PI / 2, 0, 0);
    this.#part.scale.setScalar(MM);
    this.#part.updateMatrixWorld(true);
    const before = this.#box;
    this.#box = new THREE.Box3().setFromObject(this.#part);
    if (!keepView || !alike(before, this.#box)) this.look('slant');
    this.draw();
  }

  look(side: Side): void {
    const middle = this.#box.getCenter(new THREE.Vector3());
    const radius = this.#box.getSize(new THREE.Vector3()).length() / 2 || 1;
    const far = (radius / Math.sin((FIELD / 2) * (Math.PI / 180))) * Math.max(1, 1 / this.#camera.aspect);
    this.#controls.target.copy(middle);
    this.#camera.position.copy(middle).addScaledVector(new THREE.Vector3(...FROM[side]).normalize(), far * 1.05);
    this.#camera.near = far / 100;
    this.#camera.far = far * 10;
    this.#camera.updateProjectionMatrix();
    this.#controls.update();
    this.draw();
  }

  /** Turn about the part, to the right and up, by steps. */
  turn(right: number, up: number): void {
    const away = this.#camera.position.clone().sub(this.#controls.target);
    const at = new THREE.Spherical().setFromVector3(new THREE.Vector3(away.x, away.z, -away.y));
    at.theta += right * STEP;
    at.phi = Math.min(Math.max(at.phi - up * STEP, 0.01), Math.PI - 0.01);
    const turned = new THREE.Vector3().setFromSpherical(at);
    this.#camera.position.copy(this.#controls.target).add(new THREE.Vector3(turned.x, -turned.z, turned.y));
    this.#controls.update();
    this.draw();
  }

  closer(factor: number): void {
    const away = this.#camera.position.clone().sub(this.#controls.target).divideScalar(factor);
    this.#camera.position.copy(this.#controls.target).add(away);
    this.#controls.update();
    this.draw();
  }

  /** Cut away what is nearer than a plane along an axis; the share is of the part's size. */
  cut(axis: 'x' | 'y' | 'z' | undefined, share: number): void {
    const planes = axis ? [this.#plane] : [];
    if (axis) {
      const size = this.#box.max[axis] - this.#box.min[axis];
      const at = this.#box.min[axis] + share * size;
      const way = axis === 'y' ? 1 : -1;
      this.#plane.normal.set(0, 0, 0);
      this.#plane.normal[axis] = way;
      this.#plane.constant = -way * (axis === 'y' ? this.#box.max.y - share * size : at);
    }
    for (const one of this.#part.children) ((one as THREE.Mesh).material as THREE.Material).clippingPlanes = planes;
    this.draw();
  }

  /** Faces in shades of their own, by the face that each triangle is in (−1: none); one stands out. */
  paint(faceOf: readonly number[], chosen: number): void {
    const mesh = this.#part.children[0] as THREE.Mesh | undefined;
    if (!mesh) return;
    const shades = new Float32Array(faceOf.length * 9);
    const shade = new THREE.Color();
    faceOf.forEach((face, triangle) => {
      if (face < 0) shade.set(0x8c8778);
      else if (face === chosen) shade.set(0x11605b);
      else shade.set(0xd9d3c3).offsetHSL(0, 0, face % 2 ? -0.05 : 0.04);
      for (let corner = 0; corner < 3; corner++) shade.toArray(shades, triangle * 9 + corner * 3);
    });
    mesh.geometry.setAttribute('color', new THREE.BufferAttribute(shades, 3));
    const material = mesh.material as THREE.MeshStandardMaterial;
    material.vertexColors = true;
    material.color.set(0xffffff);
    material.needsUpdate = true;
    this.draw();
  }

  /** The triangle that is seen at a place, −1 to 1 across and up. */
  triangleAt(x: number, y: number): number | undefined {
    return this.#hit(x, y)?.faceIndex ?? undefined;
  }

  #hit(x: number, y: number): THREE.Intersection | undefined {
    const ray = new THREE.Raycaster();
    ray.setFromCamera(new THREE.Vector2(x, y), this.#camera);
    return ray.intersectObjects(this.#part.children).find(({ point }) => !this.#cutAway(point));
  }

  /** A place that was clicked, −1 to 1 across and up: every second one ends a measure. */
  click(x: number, y: number): void {
    const hit = this.#hit(x, y);
    if (!hit) return;
    if (!this.#first) {
      this.forgetMeasure();
      this.#first = hit.point;
      this.#marks.add(this.#dot(hit.point));
    } else {
      const way = hit.point.clone().sub(this.#first);
      const line = new THREE.BufferGeometry().setFromPoints([this.#first, hit.point]);
      const ink = new THREE.LineBasicMaterial({ color: 0x11605b, depthTest: false });
      this.#marks.add(this.#dot(hit.point), new THREE.Line(line, ink));
      this.measured({ length: way.length(), along: [Math.abs(way.x), Math.abs(way.y), Math.abs(way.z)] });
      this.#first = undefined;
    }
    this.draw();
  }

  forgetMeasure(): void {
    this.#first = undefined;
    this.#empty(this.#marks);
    this.measured(undefined);
    this.draw();
  }

  fit(width: number, height: number): void {
    this.#renderer.setPixelRatio(Math.min(window.devicePixelRatio, 2));
    this.#renderer.setSize(width, height, false);
    this.#camera.aspect = width / Math.max(height, 1);
    this.#camera.updateProjectionMatrix();
    this.draw();
  }

  /** Draw once before the next frame, however often it is asked for. */
  readonly draw = (): void => {
    if (this.#waiting) return;
    this.#waiting = true;
    requestAnimationFrame(() => {
      this.#waiting = false;
      this.#renderer.render(this.#scene, this.#camera);
    });
  };

  close(): void {
    this.#empty(this.#part);
    this.#empty(this.#marks);
    this.#controls.dispose();
    this.#renderer.dispose();
  }

  #cutAway(point: THREE.Vector3): boolean {
    const material = (this.#part.children[0] as THREE.Mesh | undefined)?.material as THREE.Material | undefined;
    return !!material?.clippingPlanes?.length && this.#plane.distanceToPoint(point) < 0;
  }

  #dot(at: THREE.Vector3): THREE.Mesh {
    const radius = this.#box.getSize(new THREE.Vector3()).length() / 220;
    const ink = new THREE.MeshBasicMaterial({ color: 0x11605b, depthTest: false });
    const dot = new THREE.Mesh(new THREE.SphereGeometry(radius), ink);
    dot.position.copy(at);
    return dot;
  }

  #empty(group: THREE.Group): void {
    for (const one of group.children) {
      const { geometry, material } = one as THREE.Mesh;
      geometry.dispose();
      (material as THREE.Material).dispose();
    }
    group.clear();
  }
}
