import {
  AmbientLight,
  BufferAttribute,
  BufferGeometry,
  DirectionalLight,
  DoubleSide,
  LineBasicMaterial,
  LineSegments,
  Mesh,
  MeshBasicMaterial,
  MeshLambertMaterial,
  OrthographicCamera,
  Raycaster,
  Scene,
  SRGBColorSpace,
  Vector2,
  Vector3,
  WebGLRenderer,
} from "three";
import type { SurfaceDrawing } from "@/core/drawing/surfaceDrawing";

/** From where a surface is looked at: turned about the upright axis, lifted, radians; how large, and where its middle is, in half heights of the picture. */
export interface Camera {
  readonly turn: number;
  readonly lift: number;
  readonly zoom: number;
  readonly shift: readonly [number, number];
  /** axis that points up in the picture: 0 is x */
  readonly up: 0 | 1 | 2;
}

export const FIRST_LOOK: Camera = { turn: -0.7, lift: 0.45, zoom: 0.86, shift: [0, 0], up: 2 };

interface Layers {
  readonly mesh: boolean;
  readonly outline: boolean;
}

export interface Colours {
  readonly ink: number;
  readonly pointer: number;
}

/** Things drawn by the graphics card; it draws when it is told to and not otherwise. */
export abstract class Stage {
  private readonly renderer: WebGLRenderer;
  protected readonly scene = new Scene();
  private readonly eye = new OrthographicCamera(-1, 1, 1, -1, -10, 10);
  private readonly light = new DirectionalLight(0xffffff, 1.6);
  private asked = 0;

  /** @throws {Error} the browser cannot draw in space */
  constructor(
    readonly canvas: HTMLCanvasElement,
    protected readonly colours: Colours,
  ) {
    this.renderer = new WebGLRenderer({ canvas, antialias: true, alpha: true, preserveDrawingBuffer: true });
    this.renderer.outputColorSpace = SRGBColorSpace;
    this.scene.add(this.eye, new AmbientLight(0xffffff, 1.7));
    this.eye.add(this.light);
    this.light.position.set(0.4, 0.6, 1);
  }

  /** Gives all lines other colours. */
  protected abstract paint(colours: Colours): void;
  /** What can be pressed. */
  protected abstract skins(): readonly Mesh[];
  /** Gives up what is drawn. */
  protected abstract clear(): void;

  size(width: number, height: number): void {
    this.renderer.setPixelRatio(Math.min(2, window.devicePixelRatio));
    this.renderer.setSize(width, height, false);
    const wide = width / height;
    [this.eye.left, this.eye.right] = [-wide, wide];
  }

  look({ turn, lift, zoom, shift, up }: Camera): void {
    const { eye } = this;
    eye.zoom = zoom;
    const along = (axis: number, v: number): Vector3 => new Vector3().setComponent(axis % 3, v);
    const forwards = along(up + 1, Math.sin(turn)).add(along(up + 2, -Math.cos(turn)));
    // Straight from above or below the upright axis is no direction in the picture: what lies behind is up then.
    const steep = Math.abs(Math.sin(lift)) > 0.9999;
    eye.up.copy(steep ? forwards.clone().multiplyScalar(-Math.sign(lift)) : along(up, 1));
    eye.position.copy(
      forwards
        .multiplyScalar(Math.cos(lift))
        .add(along(up, Math.sin(lift)))
        .multiplyScalar(3),
    );
    eye.lookAt(0, 0, 0);
    eye.translateX(-shift[0] / zoom);
    eye.translateY(-shift[1] / zoom);
    eye.updateProjectionMatrix();
    eye.updateMatrixWorld();
  }

  /** Draws with the next frame, however often it is asked before. */
  draw(): void {
    if (this.asked) return;
    this.asked = requestAnimationFrame(() => {
      this.asked = 0;
      this.renderer.render(this.scene, this.eye);
    });
  }

  /** Draws at once, for a picture that is taken, its lines in other colours. */
  drawNow(colours: Colours): void {
    this.paint(colours);
    this.renderer.render(this.scene, this.eye);
    this.paint(this.colours);
  }

  /** Which of the things drawn, and which of its triangles, is under a place of the picture, from -1 to 1 to the right and up; and where that is. */
  hit(x: number, y: number): { readonly skin: Mesh; readonly triangle: number; readonly place: readonly [number, number, number] } | undefined {
    const ray = new Raycaster();
    ray.setFromCamera(new Vector2(x, y), this.eye);
    const found = ray.intersectObjects([...this.skins()])[0];
    if (found?.faceIndex === undefined || found.faceIndex === null) return undefined;
    return { skin: found.object as Mesh, triangle: found.faceIndex, place: [found.point.x, found.point.y, found.point.z] };
  }

  /** Whether a direction points towards the eye. */
  faces([x, y, z]: readonly [number, number, number]): boolean {
    const { x: ex, y: ey, z: ez } = this.eye.getWorldDirection(new Vector3());
    return x * ex + y * ey + z * ez < 0;
  }

  /** Where a place is in the picture, from -1 to 1. */
  project(place: readonly [number, number, number]): readonly [number, number] {
    const { x, y } = new Vector3(...place).project(this.eye);
    return [x, y];
  }

  end(): void {
    cancelAnimationFrame(this.asked);
    this.clear();
    this.renderer.dispose();
  }
}

/** Gives up things that are drawn, and what they hold. */
export function drop(scene: Scene, things: readonly (Mesh | LineSegments | undefined)[]): void {
  for (const own of things) {
    if (!own) continue;
    scene.remove(own);
    own.geometry.dispose();
    (own.material as MeshBasicMaterial).dispose();
  }
}

/** Stretches [x0, y0, z0, x1, y1, z1] in one colour. */
export function segments(points: Float32Array, color: number, opacity = 1): LineSegments {
  const own = new BufferGeometry();
  own.setAttribute("position", new BufferAttribute(points, 3));
  return new LineSegments(own, new LineBasicMaterial({ color, transparent: opacity < 1, opacity }));
}

/** Triangles in colours of their own. @param lit to show their shape; values keep the colours of the legend */
export function skinOf(positions: Float32Array, colors: Uint8Array, lit: boolean): Mesh {
  const geometry = new BufferGeometry();
  geometry.setAttribute("position", new BufferAttribute(positions, 3));
  geometry.setAttribute("color", new BufferAttribute(linear(colors), 3));
  if (lit) geometry.computeVertexNormals();
  const common = { vertexColors: true, side: DoubleSide, polygonOffset: true, polygonOffsetFactor: 1, polygonOffsetUnits: 1 };
  return new Mesh(geometry, lit ? new MeshLambertMaterial(common) : new MeshBasicMaterial(common));
}

/** A surface with its edges. */
export class SurfaceScene extends Stage {
  private skin: Mesh | undefined;
  private lines: { readonly sharp: LineSegments; readonly open: LineSegments; readonly edges: LineSegments } | undefined;
  private cuts: LineSegments | undefined;
  private shown: Layers = { mesh: false, outline: true };

  /** Values keep the colours of the legend; patches are lit, to show their shape. */
  show(drawing: SurfaceDrawing): void {
    this.clear();
    this.skin = skinOf(drawing.positions, drawing.colors, !drawing.values);
    this.lines = {
      edges: segments(drawing.edges, this.colours.ink, 0.28),
      sharp: segments(drawing.sharp, this.colours.ink, 0.9),
      open: segments(drawing.open, this.colours.pointer),
    };
    this.scene.add(this.skin, this.lines.edges, this.lines.sharp, this.lines.open);
    this.layers(this.shown);
  }

  /** Lines over the surface, where something was cut: [x0, y0, z0, x1, y1, z1] as it is drawn. */
  mark(points: Float32Array, through: boolean): void {
    drop(this.scene, [this.cuts]);
    const own = new BufferGeometry();
    own.setAttribute("position", new BufferAttribute(points, 3));
    this.cuts = new LineSegments(own, new LineBasicMaterial({ color: this.colours.pointer, depthTest: !through, transparent: through }));
    this.cuts.renderOrder = through ? 1 : 0;
    this.scene.add(this.cuts);
  }

  layers({ mesh, outline }: Layers): void {
    this.shown = { mesh, outline };
    if (!this.lines) return;
    this.lines.edges.visible = mesh;
    this.lines.sharp.visible = outline;
  }

  protected paint({ ink, pointer }: Colours): void {
    recolour(this.lines?.edges, ink);
    recolour(this.lines?.sharp, ink);
    recolour(this.lines?.open, pointer);
    recolour(this.cuts, pointer);
  }

  protected skins(): readonly Mesh[] {
    return this.skin ? [this.skin] : [];
  }

  /** Triangle under a place of the picture, from -1 to 1 to the right and up. */
  under(x: number, y: number): number | undefined {
    return this.hit(x, y)?.triangle;
  }

  protected clear(): void {
    drop(this.scene, [this.skin, ...Object.values(this.lines ?? {})]);
  }
}

export function recolour(lines: LineSegments | undefined, colour: number): void {
  (lines?.material as LineBasicMaterial | undefined)?.color.setHex(colour);
}

/** Colours as the drawing blends them: of light, not of the screen. */
export function linear(colors: Uint8Array): Float32Array {
  const table = Float32Array.from({ length: 256 }, (_, v) => {
    const c = v / 255;
    return c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4;
  });
  return Float32Array.from(colors, (v) => table[v]);
}
