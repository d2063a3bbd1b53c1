import { BufferAttribute, BufferGeometry, LineBasicMaterial, LineSegments, type Mesh } from "three";
import type { ScenePart, SpaceScene } from "@/core/drawing/spaceScene";
import { type Colours, drop, linear, recolour, Stage, segments, skinOf } from "../scene";

/** What is drawn with the parts of a volume. */
export interface ShownOf {
  readonly mesh: boolean;
  readonly outline: boolean;
}

/** Everything a scene of a volume consists of. */
export class VolumeScene extends Stage {
  private parts: readonly { readonly part: ScenePart; readonly skin: Mesh; readonly edges: LineSegments }[] = [];
  private lines:
    | { readonly outline: LineSegments; readonly streams: LineSegments; readonly arrows: LineSegments; readonly equal: LineSegments }
    | undefined;
  private marks: LineSegments | undefined;
  private shown: ShownOf = { mesh: false, outline: true };

  show(made: SpaceScene, coloured: boolean): void {
    this.clear();
    this.parts = made.parts.map((part) => ({
      part,
      skin: skinOf(part.positions, part.colors, !coloured),
      edges: segments(part.edges, this.colours.ink, 0.28),
    }));
    const own = new BufferGeometry();
    own.setAttribute("position", new BufferAttribute(made.streams.positions, 3));
    own.setAttribute("color", new BufferAttribute(linear(made.streams.colors), 3));
    this.lines = {
      outline: segments(made.outline, this.colours.ink, 0.7),
      streams: new LineSegments(own, new LineBasicMaterial(coloured ? { vertexColors: true } : { color: this.colours.ink })),
      arrows: segments(made.arrows, this.colours.ink),
      equal: segments(made.equal, this.colours.ink, 0.75),
    };
    for (const { skin, edges } of this.parts) this.scene.add(skin, edges);
    this.scene.add(...Object.values(this.lines));
    this.layers(this.shown);
  }

  /** Places that were asked for, and the line that was read: seen through what stands before them. */
  mark(points: Float32Array): void {
    drop(this.scene, [this.marks]);
    this.marks = segments(points, this.colours.pointer);
    const material = this.marks.material as LineBasicMaterial;
    material.depthTest = false;
    material.transparent = true;
    this.marks.renderOrder = 1;
    this.scene.add(this.marks);
  }

  layers(shown: ShownOf): void {
    this.shown = shown;
    for (const { edges } of this.parts) edges.visible = shown.mesh;
    if (this.lines) this.lines.outline.visible = shown.outline;
  }

  protected paint({ ink, pointer }: Colours): void {
    for (const { edges } of this.parts) recolour(edges, ink);
    recolour(this.lines?.outline, ink);
    recolour(this.lines?.arrows, ink);
    recolour(this.lines?.equal, ink);
    recolour(this.marks, pointer);
  }

  protected skins(): readonly Mesh[] {
    return this.parts.map((p) => p.skin);
  }

  protected clear(): void {
    drop(this.scene, [...this.parts.flatMap((p) => [p.skin, p.edges]), ...Object.values(this.lines ?? {})]);
    this.parts = [];
  }
}
