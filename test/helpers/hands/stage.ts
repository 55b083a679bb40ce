import * as THREE from 'three';
import { GLTFLoader } from 'three/examples/jsm/loaders/GLTFLoader.js';
import type { RenderedHand } from './clip';

/**
 * Draws hands of known joints in a browser: the generic hands of the WebXR input profiles, of 25 joints each, bent like real ones.
 * Bundled and run in a page; `window.handStage` is what the page is asked for.
 */
const WIDTH = 640;
const HEIGHT = 480;
const FINGERS = ['thumb', 'index-finger', 'middle-finger', 'ring-finger', 'pinky-finger'] as const;
const SEGMENTS = ['metacarpal', 'phalanx-proximal', 'phalanx-intermediate', 'phalanx-distal', 'tip'] as const;
const CAMERA_M = 0.5;

interface Hand {
  holder: THREE.Group;
  bones: Map<string, THREE.Object3D>;
  /** How each joint is turned in a hand that lies flat. */
  flat: Map<string, THREE.Quaternion>;
}

const names = (finger: (typeof FINGERS)[number]) => SEGMENTS.filter((segment) => finger !== 'thumb' || segment !== 'phalanx-intermediate').map((segment) => `${finger}-${segment}`);

async function loadHand(bytes: ArrayBuffer): Promise<Hand> {
  const { scene } = await new GLTFLoader().parseAsync(bytes, '');
  scene.updateMatrixWorld(true);
  const bones = new Map<string, THREE.Object3D>();
  scene.traverse((one) => {
    bones.set(one.name, one);
    if (!(one instanceof THREE.SkinnedMesh)) return;
    one.frustumCulled = false;
    one.material = new THREE.MeshStandardMaterial({ color: 0xd8a184, roughness: 0.75 });
  });
  // The file has its joints side by side: hung on one another, a bent one takes the next along.
  for (const finger of FINGERS) {
    let parent = bones.get('wrist')!;
    for (const name of names(finger)) {
      parent.attach(bones.get(name)!);
      parent = bones.get(name)!;
    }
  }
  const holder = new THREE.Group();
  holder.add(scene);
  // The wrist becomes the middle about which it is turned.
  scene.position.sub(bones.get('middle-finger-phalanx-proximal')!.getWorldPosition(new THREE.Vector3()));
  return { holder, bones, flat: new Map([...bones].map(([name, bone]) => [name, bone.quaternion.clone()])) };
}

/** Bends by how closed a finger is, each joint about its own x axis, in degrees. */
const FLEXES: Readonly<Record<string, number>> = { 'phalanx-proximal': 80, 'phalanx-intermediate': 100, 'phalanx-distal': 60 };
const THUMB_FLEXES: Readonly<Record<string, number>> = { metacarpal: 15, 'phalanx-proximal': 45, 'phalanx-distal': 55 };

class Stage {
  private readonly renderer: THREE.WebGLRenderer;
  private readonly scene = new THREE.Scene();
  private readonly camera = new THREE.PerspectiveCamera(50, WIDTH / HEIGHT, 0.01, 10);

  constructor(
    readonly canvas: HTMLCanvasElement,
    private readonly hands: Record<'left' | 'right', Hand>,
  ) {
    this.renderer = new THREE.WebGLRenderer({ canvas, preserveDrawingBuffer: true, antialias: true });
    this.renderer.setSize(WIDTH, HEIGHT, false);
    this.scene.background = new THREE.Color(0x5a6470);
    this.scene.add(new THREE.HemisphereLight(0xffffff, 0x665544, 1.7));
    const light = new THREE.DirectionalLight(0xffffff, 1.6);
    light.position.set(0.4, 1, 1);
    this.scene.add(light);
    for (const { holder } of Object.values(hands)) this.scene.add(holder);
    this.camera.position.set(0, 0, CAMERA_M);
  }

  /** Draws hands; gives the 21 points of each in the picture, x and y 0 to 1 from its left and top. */
  draw(shown: readonly RenderedHand[]): number[][] {
    for (const { holder } of Object.values(this.hands)) holder.visible = false;
    const points = shown.map((pose) => this.pose(pose));
    this.renderer.render(this.scene, this.camera);
    return points;
  }

  private pose({ side, x, y, awayM, bends, thumb, rollDeg, turnDeg }: RenderedHand): number[] {
    const { holder, bones, flat } = this.hands[side];
    holder.visible = true;
    for (const [name, bone] of bones) bone.quaternion.copy(flat.get(name)!);
    FINGERS.forEach((finger, i) => {
      for (const name of names(finger)) {
        const segment = name.slice(finger.length + 1);
        const flex = finger === 'thumb' ? (THUMB_FLEXES[segment] ?? 0) * thumb : (FLEXES[segment] ?? 0) * bends[i - 1]!;
        bones.get(name)!.rotateX(-THREE.MathUtils.degToRad(flex));
      }
    });
    // As the file has it, the fingers point down and the thumb to the camera: up with the fingers, palm to the camera.
    const facing = side === 'left' ? -90 : 90;
    const turned = new THREE.Matrix4().makeRotationY(THREE.MathUtils.degToRad(facing));
    const up = new THREE.Matrix4().makeRotationZ(Math.PI);
    const own = new THREE.Matrix4().makeRotationY(THREE.MathUtils.degToRad(side === 'left' ? turnDeg : -turnDeg));
    // The performer's right is at the left of the picture.
    const roll = new THREE.Matrix4().makeRotationZ(THREE.MathUtils.degToRad(rollDeg));
    holder.rotation.setFromRotationMatrix(roll.multiply(own).multiply(up).multiply(turned));
    const halfHeight = awayM * Math.tan(THREE.MathUtils.degToRad(25));
    holder.position.set((0.5 - x) * 2 * halfHeight * (WIDTH / HEIGHT), (y - 0.5) * 2 * halfHeight, CAMERA_M - awayM);
    holder.updateMatrixWorld(true);
    this.camera.updateMatrixWorld(true);
    const joints = ['wrist', ...FINGERS.flatMap((finger) => names(finger).slice(finger === 'thumb' ? 0 : 1))];
    return joints.flatMap((name) => {
      const at = bones.get(name)!.getWorldPosition(new THREE.Vector3()).project(this.camera);
      return [(at.x + 1) / 2, (1 - at.y) / 2];
    });
  }
}

declare global {
  interface Window {
    makeHandStage(left: number[], right: number[]): Promise<void>;
    handStage: Stage;
    lookAtHands(pictures: readonly RenderedHand[][], settings: { model: 'fast' | 'exact'; hands: 1 | 2 }, origin: string): Promise<LookedAt[]>;
  }
}

interface FoundHand {
  side: 'left' | 'right';
  picture: number[];
  world: number[];
}

/** Where hands were drawn, and what was found of them. */
interface LookedAt {
  points: number[][];
  hands: FoundHand[];
  lookMs: number;
}

window.lookAtHands = async (pictures, { model, hands }, origin) => {
  const worker = new Worker(`${origin}/worker.js`);
  const ask = <T>(message: unknown, transfer: Transferable[] = []) =>
    new Promise<T>((resolve, reject) => {
      worker.onmessage = ({ data }) => resolve(data as T);
      worker.onerror = ({ message: what }) => reject(new Error(what));
      worker.postMessage(message, transfer);
    });
  await ask({ folder: `${origin}/model/`, model, hands });
  const all: LookedAt[] = [];
  for (const shown of pictures) {
    const points = window.handStage.draw(shown);
    const picture = await createImageBitmap(window.handStage.canvas);
    all.push({ points, ...(await ask<Omit<LookedAt, 'points'>>(picture, [picture])) });
  }
  return all;
};

const bytesOf = (numbers: number[]) => Uint8Array.from(numbers).buffer;
window.makeHandStage = async (left, right) => {
  const canvas = document.createElement('canvas');
  Object.assign(canvas, { width: WIDTH, height: HEIGHT });
  document.body.append(canvas);
  window.handStage = new Stage(canvas, { left: await loadHand(bytesOf(left)), right: await loadHand(bytesOf(right)) });
};
