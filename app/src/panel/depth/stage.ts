import {
  AmbientLight,
  BoxGeometry,
  BufferAttribute,
  BufferGeometry,
  Color,
  DirectionalLight,
  EdgesGeometry,
  Group,
  Light,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshLambertMaterial,
  OrthographicCamera,
  Raycaster,
  Scene,
  Vector2,
  Vector3,
  WebGLRenderer,
  type Object3D,
} from "three";
import { GLTFExporter } from "three/addons/exporters/GLTFExporter.js";
import { OrbitControls } from "three/addons/controls/OrbitControls.js";
import { WIRE_COLOURS, type Palette } from "../../kit/tokens";
import type { LayerName, Space, SpaceBlock, SpaceDoor } from "./space";

/** From which side it is looked at: turned about the upright, and raised, degrees. */
export const SIDES = {
  front: [0, 0],
  left: [-90, 0],
  right: [90, 0],
  above: [0, 89],
  corner: [-32, 22],
} as const;
export type SideName = keyof typeof SIDES;

/** Of each corner of a wire where it stands with its door shut. */
interface Turning {
  geometry: BufferGeometry;
  shut: Float32Array;
  doors: (SpaceDoor | null)[];
}

const STEP_DEG = 10;
const MARGIN = 1.12;

/** The cabinets as blocks in a canvas: drawn when something changes, not all the time. */
export class DepthStage {
  readonly #scene = new Scene();
  readonly #camera = new OrthographicCamera(-1, 1, 1, -1, 1, 100_000);
  readonly #renderer: WebGLRenderer;
  readonly #controls: OrbitControls;
  readonly #layers = new Map<LayerName, Object3D[]>();
  readonly #doors = new Map<string, Group>();
  readonly #pickable: Mesh[] = [];
  readonly #marks = new Group();
  #wires: Turning | null = null;
  #space: Space | null = null;
  #palette: Palette;
  #degrees = 0;
  #waiting = false;

  /** @throws where the browser has no WebGL */
  constructor(canvas: HTMLCanvasElement, palette: Palette) {
    this.#palette = palette;
    this.#renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true, preserveDrawingBuffer: false });
    this.#controls = new OrbitControls(this.#camera, canvas);
    this.#controls.enableDamping = false;
    this.#controls.addEventListener("change", () => this.draw());
  }

  /** Builds everything anew; from where it is looked at stays. */
  show(space: Space, palette: Palette): void {
    const first = this.#space === null;
    this.#space = space;
    this.#palette = palette;
    this.#clear();
    const light = new DirectionalLight(0xffffff, 1.6);
    light.position.set(-0.4, 0.8, 1);
    this.#scene.add(new AmbientLight(0xffffff, 1.7), light, this.#marks);
    for (const door of space.doors) {
      const group = new Group();
      group.position.set(door.axis.x, 0, -door.axis.z);
      this.#doors.set(door.enclosure, group);
      // What hangs on a door goes with it.
      this.#layer("door", group);
      this.#scene.add(group);
    }
    for (const block of space.blocks) this.#block(block);
    this.#clashes(space);
    this.#addWires(space);
    this.open(this.#degrees);
    if (first) this.from("corner");
  }

  /** Leaves layers out of sight. */
  hide(hidden: readonly LayerName[]): void {
    for (const [name, objects] of this.#layers) for (const o of objects) o.visible = !hidden.includes(name);
    this.draw();
  }

  /** Marks what is chosen. */
  choose(thing: string | null, of: string | null): void {
    for (const mesh of this.#pickable) {
      const block = mesh.userData as SpaceBlock;
      const chosen = block.thing === thing && block.of === of;
      const material = mesh.material as MeshLambertMaterial;
      material.color.set(chosen ? this.#palette.verdigris : this.#colourOf(block));
    }
    this.draw();
  }

  /** Opens every door by so many degrees, as far as it opens. */
  open(degrees: number): void {
    this.#degrees = degrees;
    for (const door of this.#space?.doors ?? []) this.#doors.get(door.enclosure)!.rotation.y = turnOf(door, degrees);
    this.#bendWires();
    this.draw();
  }

  /** Looks from a side, everything in sight. */
  from(side: SideName): void {
    const [round, up] = SIDES[side];
    this.#look(round, up);
    this.fit();
  }

  /** Turns by steps, for the keys. */
  turn(across: number, up: number): void {
    const off = this.#camera.position.clone().sub(this.#controls.target);
    const round = (Math.atan2(off.x, off.z) * 180) / Math.PI + across * STEP_DEG;
    const raised = (Math.asin(off.y / off.length()) * 180) / Math.PI + up * STEP_DEG;
    this.#look(round, Math.max(-89, Math.min(89, raised)));
    this.draw();
  }

  zoom(by: number): void {
    this.#camera.zoom = Math.max(0.2, Math.min(40, this.#camera.zoom * by));
    this.#camera.updateProjectionMatrix();
    this.draw();
  }

  /** All in sight. */
  fit(): void {
    this.#camera.zoom = 1;
    this.resize();
  }

  /** After the canvas has another size. */
  resize(): void {
    const { clientWidth: w, clientHeight: h } = this.#renderer.domElement;
    if (w === 0 || h === 0 || !this.#space) return;
    this.#renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
    this.#renderer.setSize(w, h, false);
    const reach = this.#reach();
    const half = MARGIN * Math.max(reach.up, (reach.across * h) / w);
    Object.assign(this.#camera, { left: (-half * w) / h, right: (half * w) / h, top: half, bottom: -half });
    this.#camera.updateProjectionMatrix();
    this.draw();
  }

  /** How far everything comes from the middle of the picture, doors as they stand, mm. */
  #reach(): { across: number; up: number } {
    const { min, max } = this.#space!.bounds;
    const out = this.#space!.doors.reduce((most, d) => Math.max(most, d.wideMm), 0);
    const before = out * Math.sin((Math.min(90, this.#degrees) * Math.PI) / 180);
    this.#camera.updateMatrixWorld();
    const [right, upright] = [new Vector3(), new Vector3()];
    this.#camera.matrixWorld.extractBasis(right, upright, new Vector3());
    let [across, up] = [1, 1];
    for (const x of [min.x, max.x])
      for (const y of [min.y, max.y])
        for (const z of [-min.z + before, -max.z]) {
          const from = new Vector3(x, y, z).sub(this.#controls.target);
          across = Math.max(across, Math.abs(from.dot(right)));
          up = Math.max(up, Math.abs(from.dot(upright)));
        }
    return { across, up };
  }

  /** What is in sight at a point of the canvas, px. */
  at(x: number, y: number): SpaceBlock | null {
    const { clientWidth: w, clientHeight: h } = this.#renderer.domElement;
    const ray = new Raycaster();
    ray.setFromCamera(new Vector2((x / w) * 2 - 1, 1 - (y / h) * 2), this.#camera);
    const seen = this.#pickable.filter((m) => shownWith(m));
    const hits = ray.intersectObjects(seen, false).map((hit) => hit.object.userData as SpaceBlock);
    return hits.find((b) => b.kind !== "wall" && b.kind !== "plate") ?? null;
  }

  /** What is in sight as a model in metres, binary glTF 2.0. */
  async model(): Promise<ArrayBuffer> {
    const root = new Group();
    root.name = "cabinets";
    root.scale.setScalar(0.001);
    // All but the lights.
    for (const child of this.#scene.children) if (!(child instanceof Light)) root.add(child.clone());
    return (await new GLTFExporter().parseAsync(root, { binary: true, onlyVisible: true })) as ArrayBuffer;
  }

  /** Draws once the browser is ready to, however often it is asked. */
  draw(): void {
    if (this.#waiting) return;
    this.#waiting = true;
    requestAnimationFrame(() => {
      this.#waiting = false;
      this.#renderer.render(this.#scene, this.#camera);
    });
  }

  end(): void {
    this.#clear();
    this.#controls.dispose();
    this.#renderer.dispose();
  }

  #look(round: number, up: number): void {
    const { min, max } = this.#space!.bounds;
    const middle = new Vector3((min.x + max.x) / 2, (min.y + max.y) / 2, -(min.z + max.z) / 2);
    const far = 20_000;
    const [a, b] = [(round * Math.PI) / 180, (up * Math.PI) / 180];
    this.#controls.target.copy(middle);
    this.#camera.position.set(
      middle.x + far * Math.sin(a) * Math.cos(b),
      middle.y + far * Math.sin(b),
      middle.z + far * Math.cos(a) * Math.cos(b),
    );
    this.#camera.lookAt(middle);
    this.#controls.update();
  }

  #clear(): void {
    this.#scene.traverse((o) => {
      if (o instanceof Mesh || o instanceof LineSegments) {
        (o.geometry as BufferGeometry).dispose();
        (o.material as LineBasicMaterial).dispose();
      }
    });
    this.#scene.clear();
    this.#marks.clear();
    this.#layers.clear();
    this.#doors.clear();
    this.#pickable.length = 0;
    this.#wires = null;
  }

  #layer(name: LayerName, object: Object3D): void {
    const there = this.#layers.get(name);
    if (there) there.push(object);
    else this.#layers.set(name, [object]);
  }

  #block(block: SpaceBlock): void {
    const { min, max } = block.box;
    const size = new Vector3(max.x - min.x, max.y - min.y, max.z - min.z);
    const shape = new BoxGeometry(size.x, size.y, size.z);
    const wall = block.kind === "wall";
    const mesh = new Mesh(
      shape,
      new MeshLambertMaterial({
        color: new Color(this.#colourOf(block)),
        transparent: wall,
        opacity: wall ? 0.16 : 1,
        depthWrite: !wall,
      }),
    );
    mesh.name = block.of;
    mesh.userData = block;
    const edges = new LineSegments(
      new EdgesGeometry(shape),
      new LineBasicMaterial({ color: new Color(wall ? this.#palette.slate : this.#palette.graphite) }),
    );
    mesh.add(edges);
    const door = block.onDoor ? this.#doors.get(block.enclosure) : undefined;
    const middle = new Vector3((min.x + max.x) / 2, (min.y + max.y) / 2, -(min.z + max.z) / 2);
    mesh.position.copy(door ? middle.sub(door.position) : middle);
    (door ?? this.#scene).add(mesh);
    this.#pickable.push(mesh);
    if (wall && !block.onDoor) this.#layer("walls", mesh);
    else if (block.thing === "duct") this.#layer("ducts", mesh);
    else if (block.thing === "device" || block.thing === "strip") this.#layer("devices", mesh);
  }

  #colourOf({ kind }: SpaceBlock): string {
    const p = this.#palette;
    return {
      body: p.paper,
      terminal: p.line,
      duct: p.tray,
      rail: p.slate,
      piece: p.slate,
      plate: p.line,
      wall: p.slate,
    }[kind];
  }

  /** Crossed blocks in brick, larger than what they mark, so that they are seen from every side. */
  #clashes({ clashes }: Space): void {
    for (const { box, onDoor } of clashes) {
      const { min, max } = box;
      const shape = new BoxGeometry(max.x - min.x + 6, max.y - min.y + 6, max.z - min.z + 6);
      const mark = new Mesh(
        shape,
        new MeshLambertMaterial({ color: new Color(this.#palette.brick), transparent: true, opacity: 0.75 }),
      );
      mark.name = "clash";
      mark.add(
        new LineSegments(
          new EdgesGeometry(shape),
          new LineBasicMaterial({ color: new Color(this.#palette.brick), depthTest: false }),
        ),
      );
      const door = onDoor === null ? undefined : this.#doors.get(onDoor);
      const middle = new Vector3((min.x + max.x) / 2, (min.y + max.y) / 2, -(min.z + max.z) / 2);
      mark.position.copy(door ? middle.sub(door.position) : middle);
      (door ?? this.#marks).add(mark);
    }
  }

  #addWires({ wires, doors }: Space): void {
    const by = new Map(doors.map((d) => [d.enclosure, d]));
    const [shut, colours, turning]: [number[], number[], (SpaceDoor | null)[]] = [[], [], []];
    for (const { points, colour } of wires) {
      const tone = new Color(WIRE_COLOURS[colour ?? ""]?.[0] ?? this.#palette.graphite);
      for (let i = 1; i < points.length; i++)
        for (const p of [points[i - 1]!, points[i]!]) {
          shut.push(p.x, p.y, -p.z);
          colours.push(tone.r, tone.g, tone.b);
          turning.push(p.door === null ? null : (by.get(p.door) ?? null));
        }
    }
    if (shut.length === 0) return;
    const geometry = new BufferGeometry();
    geometry.setAttribute("position", new BufferAttribute(new Float32Array(shut), 3));
    geometry.setAttribute("color", new BufferAttribute(new Float32Array(colours), 3));
    const lines = new LineSegments(geometry, new LineBasicMaterial({ vertexColors: true }));
    lines.name = "wires";
    this.#wires = { geometry, shut: new Float32Array(shut), doors: turning };
    const group = new Group();
    group.add(lines);
    this.#scene.add(group);
    this.#layer("wires", group);
  }

  /** Wires that lie on a door go with it. */
  #bendWires(): void {
    if (!this.#wires) return;
    const { geometry, shut, doors } = this.#wires;
    const position = geometry.getAttribute("position") as BufferAttribute;
    doors.forEach((door, i) => {
      if (!door) return;
      const turn = turnOf(door, this.#degrees);
      const [x, z] = [shut[3 * i]! - door.axis.x, shut[3 * i + 2]! + door.axis.z];
      const [c, s] = [Math.cos(turn), Math.sin(turn)];
      position.setX(i, door.axis.x + x * c + z * s);
      position.setZ(i, -door.axis.z - x * s + z * c);
    });
    position.needsUpdate = true;
    geometry.computeBoundingSphere();
  }
}

/** About the upright, radians: a door hinged at the left comes out with its right side. */
const turnOf = ({ side, mostDeg }: SpaceDoor, degrees: number): number =>
  ((side === "left" ? -1 : 1) * Math.min(degrees, mostDeg) * Math.PI) / 180;

/** Whether it and all that holds it is in sight. */
function shownWith(object: Object3D): boolean {
  for (let o: Object3D | null = object; o; o = o.parent) if (!o.visible) return false;
  return true;
}
