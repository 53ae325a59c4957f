import { buildTree, type Tree } from './bvh.ts';
import type { Scene } from './scene.ts';

export interface PreparedScene {
  scene: Scene;
  tree: Tree;
}
export const prepare = (scene: Scene): PreparedScene => ({ scene, tree: buildTree(scene.mesh) });
