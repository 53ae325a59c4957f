import { meet, type Meeting } from './bvh.ts';
import type { Film } from './film.ts';
import { cross, subtract, unit } from './mesh.ts';
import { seeded } from './random.ts';
import { bands, paints } from './spectrum.ts';
import type { Spot, Surface } from './scene.ts';
import { toward, type Toward } from './toward.ts';
import type { PreparedScene } from './prepared.ts';

/** Path-traces a picture onto the film. Deterministic: each row has its own generator. */
export function trace(
  prepared: PreparedScene,
  film: Film,
  samples: number,
  seed: number,
  progress: (share: number) => void = () => {},
): void {
  const { width, height } = film;
  const { scene, tree } = prepared;
  const { mesh, materials, lamps } = scene;
  const normals = Float32Array.from(mesh.normals),
    uvs = Float32Array.from(mesh.uvs),
    index = Int32Array.from(mesh.index),
    material = Int16Array.from(mesh.material);
  const forward = unit(subtract(scene.target, scene.eye)),
    right = unit(cross(forward, [0, 1, 0])),
    up = cross(right, forward);
  const sensorHeight = 0.024,
    sensorWidth = (sensorHeight * width) / height,
    focal = scene.focalMm / 1000;
  const lens = focal / scene.apertureF / 2;
  const offset = subtract(scene.focusAt, scene.eye);
  const focus = offset[0] * forward[0] + offset[1] * forward[1] + offset[2] * forward[2];
  const throughput = new Float64Array(bands),
    sum = new Float64Array(bands),
    air = new Float64Array(bands),
    paint = new Float64Array(bands),
    albedo = new Float64Array(bands);
  const hit: Meeting = { slot: -1, distance: 0, u: 0, v: 0 },
    shadow: Meeting = { slot: -1, distance: 0, u: 0, v: 0 };
  const spot: Spot = { x: 0, y: 0, z: 0, u: 0, v: 0, triangle: 0 };
  const surface: Surface = {
    r: 0,
    g: 0,
    b: 0,
    gloss: 0,
    roughness: 1,
    through: 0,
    metal: 0,
    wrap: 0,
    spectrum: null,
    nx: 0,
    ny: 0,
    nz: 0,
    glow: 0,
  };
  const tint = { r: 0, g: 0, b: 0 },
    haze = { extinction: 0, r: 0, g: 0, b: 0 },
    lit: Toward = { x: 0, y: 0, z: 0, distance: 0, weight: 0 };
  const [paintR, paintG, paintB] = paints;

  for (let row = 0; row < height; row++) {
    if (row % 16 === 0) progress(row / height);
    const random = seeded(seed * 7919 + row * 104729 + 13);
    for (let column = 0; column < width; column++) {
      sum.fill(0);
      air.fill(0);
      paint.fill(0);
      let gx = 0,
        gy = 0,
        gz = 0,
        away = 0,
        square = 0,
        before = 0;
      const turn1 = random(),
        turn2 = random(),
        turn3 = random(),
        turn4 = random();
      for (let s = 0; s < samples; s++) {
        // R2 sequence (Roberts 2018) turned by a random offset for each pixel
        const a1 = (turn1 + s * 0.7548776662) % 1,
          a2 = (turn2 + s * 0.5698402909) % 1;
        const l1 = (turn3 + s * 0.8191725134) % 1,
          l2 = (turn4 + s * 0.6710436067) % 1;
        const fx = ((column + 0.5 + (a1 - 0.5) * 1.4) / width - 0.5) * sensorWidth,
          fy = (0.5 - (row + 0.5 + (a2 - 0.5) * 1.4) / height) * sensorHeight;
        const lr = lens * Math.sqrt(l1),
          la = 2 * Math.PI * l2;
        const lx = lr * Math.cos(la),
          ly = lr * Math.sin(la);
        const k = focus / focal;
        let dx = forward[0] * focus + right[0] * (fx * k - lx) + up[0] * (fy * k - ly);
        let dy = forward[1] * focus + right[1] * (fx * k - lx) + up[1] * (fy * k - ly);
        let dz = forward[2] * focus + right[2] * (fx * k - lx) + up[2] * (fy * k - ly);
        let n = 1 / Math.hypot(dx, dy, dz);
        dx *= n;
        dy *= n;
        dz *= n;
        let ox = scene.eye[0] + right[0] * lx + up[0] * ly,
          oy = scene.eye[1] + right[1] * lx + up[1] * ly,
          oz = scene.eye[2] + right[2] * lx + up[2] * ly;
        throughput.fill(1);
        let mirror = true;
        for (let depth = 0; ; depth++) {
          const met = meet(tree, ox, oy, oz, dx, dy, dz, 1e6, false, hit);
          if (depth === 0 && scene.medium) {
            const m = scene.medium,
              far = Math.min(met ? hit.distance : m.reach, m.reach),
              step = far / m.steps;
            let passed = 1;
            for (let i = 0; i < m.steps; i++) {
              const t = (i + random()) * step;
              m.at(ox + dx * t, oy + dy * t, oz + dz * t, dx, dy, dz, haze);
              const lost = 1 - Math.exp(-haze.extinction * step);
              for (let b = 0; b < bands; b++)
                air[b]! += passed * lost * (haze.r * paintR[b]! + haze.g * paintG[b]! + haze.b * paintB[b]!) * m.spectrum[b]!;
              passed *= 1 - lost;
            }
            for (let b = 0; b < bands; b++) throughput[b]! *= passed;
          }
          if (!met && depth === 0) {
            for (let b = 0; b < bands; b++) paint[b]!++;
            gx -= dx;
            gy -= dy;
            gz -= dz;
            away += 1e3;
          }
          if (!met) {
            if (scene.sky) {
              scene.sky(dx, dy, dz, tint);
              for (let b = 0; b < bands; b++)
                sum[b]! += throughput[b]! * (tint.r * paintR[b]! + tint.g * paintG[b]! + tint.b * paintB[b]!) * scene.skySpectrum[b]!;
            }
            if (mirror) {
              for (const lamp of lamps) {
                if (lamp.kind !== 'far' || !lamp.visible) continue;
                if (dx * lamp.towards[0] + dy * lamp.towards[1] + dz * lamp.towards[2] > Math.cos(lamp.spread))
                  for (let b = 0; b < bands; b++) air[b]! += throughput[b]! * lamp.power * lamp.spectrum[b]!;
              }
            }
            break;
          }
          const triangle = tree.order[hit.slot]!;
          const i0 = index[triangle * 3]!,
            i1 = index[triangle * 3 + 1]!,
            i2 = index[triangle * 3 + 2]!;
          const w = 1 - hit.u - hit.v;
          spot.x = ox + dx * hit.distance;
          spot.y = oy + dy * hit.distance;
          spot.z = oz + dz * hit.distance;
          spot.u = uvs[i0 * 2]! * w + uvs[i1 * 2]! * hit.u + uvs[i2 * 2]! * hit.v;
          spot.v = uvs[i0 * 2 + 1]! * w + uvs[i1 * 2 + 1]! * hit.u + uvs[i2 * 2 + 1]! * hit.v;
          spot.triangle = triangle;
          surface.nx = normals[i0 * 3]! * w + normals[i1 * 3]! * hit.u + normals[i2 * 3]! * hit.v;
          surface.ny = normals[i0 * 3 + 1]! * w + normals[i1 * 3 + 1]! * hit.u + normals[i2 * 3 + 1]! * hit.v;
          surface.nz = normals[i0 * 3 + 2]! * w + normals[i1 * 3 + 2]! * hit.u + normals[i2 * 3 + 2]! * hit.v;
          surface.gloss = 0;
          surface.roughness = 0.6;
          surface.through = 0;
          surface.metal = 0;
          surface.wrap = 0;
          surface.spectrum = null;
          surface.glow = 0;
          materials[material[triangle]!]!(spot, surface);
          if (surface.glow > 0) {
            if (depth === 0) {
              gx -= dx;
              gy -= dy;
              gz -= dz;
              away += hit.distance;
            }
            if (mirror) for (let b = 0; b < bands; b++) air[b]! += throughput[b]! * surface.glow * lamps[0]!.spectrum[b]!;
            break;
          }
          n = 1 / (Math.hypot(surface.nx, surface.ny, surface.nz) || 1);
          let nx = surface.nx * n,
            ny = surface.ny * n,
            nz = surface.nz * n;
          if (nx * dx + ny * dy + nz * dz > 0) {
            nx = -nx;
            ny = -ny;
            nz = -nz;
          }
          for (let b = 0; b < bands; b++)
            albedo[b] = surface.spectrum ? surface.spectrum[b]! : surface.r * paintR[b]! + surface.g * paintG[b]! + surface.b * paintB[b]!;
          if (depth === 0) {
            for (let b = 0; b < bands; b++) paint[b]! += albedo[b]!;
            gx += nx;
            gy += ny;
            gz += nz;
            away += hit.distance;
          }
          const facing = -(nx * dx + ny * dy + nz * dz);
          const fresnel =
            surface.gloss +
            (1 - surface.gloss) * Math.pow(1 - Math.max(0, facing), 5) * (surface.gloss > 0 ? Math.max(0, 1 - surface.roughness) : 0);
          const px = spot.x + nx * 1e-4,
            py = spot.y + ny * 1e-4,
            pz = spot.z + nz * 1e-4;
          if (lamps.length > 0) {
            const lamp = lamps[Math.floor(random() * lamps.length)]!;
            toward(lamp, px, py, pz, random, lit);
            const { x: tx, y: ty, z: tz, distance, weight } = lit;
            const cosine = nx * tx + ny * ty + nz * tz;
            const wrap = surface.wrap;
            if (weight > 0 && (cosine > -wrap || surface.through > 0)) {
              const lift = wrap > 0 ? 0.004 : 0;
              const front = cosine > 0 || wrap > 0,
                sx = front ? px + nx * lift : spot.x - nx * 1e-4,
                sy = front ? py + ny * lift : spot.y - ny * 1e-4,
                sz = front ? pz + nz * lift : spot.z - nz * 1e-4;
              if (!meet(tree, sx, sy, sz, tx, ty, tz, distance - 1e-3, true, shadow)) {
                const full = (weight * lamps.length * lamp.power * (wrap > 0 ? 1 : Math.abs(cosine))) / Math.PI,
                  gain = depth > 0 ? Math.min(full, 2) : full;
                const share = (front ? 1 - surface.through : surface.through) * (1 - fresnel) * (1 - surface.metal);
                let sheen = 0;
                if (cosine > 0 && surface.gloss > 0) {
                  let hx = tx - dx,
                    hy = ty - dy,
                    hz = tz - dz;
                  n = 1 / Math.hypot(hx, hy, hz);
                  hx *= n;
                  hy *= n;
                  hz *= n;
                  const power = 2 / surface.roughness ** 4 - 2;
                  sheen = (fresnel * (power + 8) * Math.pow(Math.max(0, hx * nx + hy * ny + hz * nz), power)) / 8;
                }
                if (wrap > 0) {
                  for (let b = 0; b < bands; b++) {
                    const creep = wrap * (b / (bands - 1)) ** 2;
                    sum[b]! +=
                      throughput[b]! *
                      gain *
                      lamp.spectrum[b]! *
                      (albedo[b]! * share * Math.max(0, (cosine + creep) / (1 + creep) ** 2) + sheen * Math.max(0, cosine));
                  }
                } else
                  for (let b = 0; b < bands; b++)
                    sum[b]! +=
                      throughput[b]! * gain * lamp.spectrum[b]! * (albedo[b]! * share + sheen * (surface.metal > 0 ? albedo[b]! : 1));
              }
            }
          }
          if (depth >= scene.bounces) break;
          const z2 = random(),
            angle = 2 * Math.PI * random();
          const shiny = random() < Math.max(fresnel, surface.metal);
          if (shiny) {
            const along = 2 * (nx * dx + ny * dy + nz * dz);
            dx -= along * nx;
            dy -= along * ny;
            dz -= along * nz;
            const blur = surface.roughness * surface.roughness * 1.2,
              z = Math.sqrt(z2) * blur;
            dx += z * Math.cos(angle);
            dy += z * Math.sin(angle);
            dz += z * Math.cos(angle * 1.7 + 1);
            if (dx * nx + dy * ny + dz * nz <= 0) break;
            if (surface.metal > 0) for (let b = 0; b < bands; b++) throughput[b]! *= albedo[b]!;
            mirror = surface.roughness < 0.15;
          } else {
            const goes = random() < surface.through ? -1 : 1;
            const radius = Math.sqrt(z2),
              sign = nz >= 0 ? 1 : -1,
              a = -1 / (sign + nz),
              bb = nx * ny * a;
            const cx = radius * Math.cos(angle),
              cy = radius * Math.sin(angle),
              cz = Math.sqrt(1 - z2) * goes;
            dx = cx * (1 + sign * nx * nx * a) + cy * bb + cz * nx;
            dy = cx * sign * bb + cy * (sign + ny * ny * a) + cz * ny;
            dz = -cx * sign * nx - cy * ny + cz * nz;
            for (let b = 0; b < bands; b++) throughput[b]! *= albedo[b]!;
            mirror = false;
          }
          n = 1 / Math.hypot(dx, dy, dz);
          dx *= n;
          dy *= n;
          dz *= n;
          const out = dx * nx + dy * ny + dz * nz > 0 ? 1e-4 : -1e-4;
          ox = spot.x + nx * out;
          oy = spot.y + ny * out;
          oz = spot.z + nz * out;
        }
        let all = 0;
        for (let b = 0; b < bands; b++) all += sum[b]!;
        square += (all - before) ** 2;
        before = all;
      }
      const at = row * width + column,
        o = at * bands;
      for (let b = 0; b < bands; b++) {
        film.surface[o + b] = sum[b]! / samples;
        film.glow[o + b] = air[b]! / samples;
        film.albedo[o + b] = paint[b]! / samples;
      }
      const norm = 1 / (Math.hypot(gx, gy, gz) || 1);
      film.guide.set([gx * norm, gy * norm, gz * norm, away / samples], at * 4);
      film.moments.set([before / samples, square / samples], at * 2);
    }
  }
}
