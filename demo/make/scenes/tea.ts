/** Tea poured from a height into a glass, at 120 frames a second: a rope of drops, splashes, steam. */
import * as THREE from 'three';
import type { Shot } from '../stage';
import {
  BulbString,
  FarLights,
  duskDome,
  fibreTexture,
  lightSprite,
  plankTexture,
  puffTexture,
  seededRandom,
  shadowLamp,
  smoothstep,
  solid,
  wander,
} from './market';

const SPOUT = new THREE.Vector3(-0.62, 1.62, 0);
const MOUTH_Y = -0.3;
const G = 2.6;
/** When the first drop leaves the spout and the last one does, seconds. */
const POUR_S: [number, number] = [0.35, 2.2];
const FLIGHT_VX = 0.62;
const FALL_S = Math.sqrt((2 * (SPOUT.y - MOUTH_Y)) / G) * 0.9;

function dropAt(age: number, wobble: number): THREE.Vector3 {
  return new THREE.Vector3(
    SPOUT.x + (FLIGHT_VX * age * 0.62) / FALL_S + 0.012 * Math.sin(wobble + age * 17) * age,
    SPOUT.y - 0.12 * age - 0.5 * G * age * age,
    0.012 * Math.cos(wobble * 1.7 + age * 13) * age,
  );
}

export function tea(): Shot {
  const scene = new THREE.Scene();
  const camera = new THREE.PerspectiveCamera(32, 16 / 9, 0.1, 100);
  const table = solid(
    new THREE.BoxGeometry(9, 0.2, 3.4),
    new THREE.MeshStandardMaterial({ map: plankTexture(41, '#7a4c2c'), roughness: 0.38 }),
  );
  (table.material as THREE.MeshStandardMaterial).map!.repeat.set(2.5, 1);
  table.position.set(0, -1.02, 0);
  const far = new FarLights(51, 40, 22, [-2.6, 4.6], -12, 1.1);
  const bulbs = new BulbString(
    new THREE.Vector3(-5, 2.7, -2.6),
    new THREE.Vector3(5, 2.5, -2.4),
    0.5,
    13,
    '#ffb765',
    0,
  );
  scene.add(duskDome('#43283c'), table, far.group, bulbs.group);
  const key = shadowLamp('#ffcf96', 46, new THREE.Vector3(2.6, 3.6, 2.6));
  const back = new THREE.SpotLight('#ff9c50', 60, 0, 0.9, 0.7, 1.5);
  back.position.set(-1.8, 2.2, -3);
  back.target.position.set(0, 0, 0);
  scene.add(key, key.target, back, back.target, new THREE.HemisphereLight('#3d4472', '#40200e', 0.8));

  const brass = new THREE.MeshStandardMaterial({
    color: '#d39a3c',
    metalness: 0.75,
    roughness: 0.24,
    emissive: '#2a1404',
  });
  const pot = new THREE.Group();
  const profile = [
    [0, -0.42],
    [0.3, -0.42],
    [0.46, -0.2],
    [0.48, 0.02],
    [0.36, 0.26],
    [0.2, 0.34],
    [0.16, 0.4],
    [0.05, 0.46],
    [0.06, 0.54],
    [0, 0.58],
  ].map(([x, y]) => new THREE.Vector2(x, y));
  pot.add(solid(new THREE.LatheGeometry(profile, 64), brass));
  const spoutCurve = new THREE.CatmullRomCurve3([
    new THREE.Vector3(0.38, -0.16, 0),
    new THREE.Vector3(0.66, 0, 0),
    new THREE.Vector3(0.76, 0.26, 0),
    new THREE.Vector3(0.98, 0.4, 0),
  ]);
  pot.add(solid(new THREE.TubeGeometry(spoutCurve, 40, 0.055, 14), brass));
  const handle = solid(new THREE.TorusGeometry(0.3, 0.04, 14, 40, 3.6), brass);
  handle.position.set(-0.46, 0.08, 0);
  handle.rotation.z = 1.35;
  pot.add(handle);
  scene.add(pot);

  const glass = solid(
    new THREE.LatheGeometry(
      [
        [0.001, -0.9],
        [0.27, -0.9],
        [0.3, -0.6],
        [0.36, -0.26],
        [0.34, -0.26],
        [0.28, -0.6],
        [0.24, -0.84],
        [0.001, -0.84],
      ].map(([x, y]) => new THREE.Vector2(x, y)),
      64,
    ),
    new THREE.MeshStandardMaterial({
      color: '#ffe9cf',
      transparent: true,
      opacity: 0.22,
      roughness: 0.06,
      metalness: 0.25,
      side: THREE.DoubleSide,
      depthWrite: false,
    }),
  );
  glass.castShadow = false;
  const saucer = solid(
    new THREE.CylinderGeometry(0.56, 0.4, 0.05, 64),
    new THREE.MeshStandardMaterial({ map: fibreTexture(61, '#d9d2c4', 0.05), roughness: 0.3 }),
  );
  saucer.position.y = -0.91;
  const amber = new THREE.MeshStandardMaterial({
    color: '#b8510e',
    roughness: 0.12,
    emissive: '#5c1d02',
    transparent: true,
    opacity: 0.93,
  });
  const liquid = solid(new THREE.CylinderGeometry(0.3, 0.25, 1, 48), amber);
  scene.add(saucer, liquid, glass);
  for (const [x, z, s] of [
    [-1.9, -0.6, 1],
    [1.75, -0.75, 0.9],
    [2.3, 0.25, 0.8],
  ] as const) {
    const cup = glass.clone();
    cup.scale.setScalar(s);
    cup.position.set(x, -0.93 + 0.93 * s, z);
    const fill = solid(new THREE.CylinderGeometry(0.29 * s, 0.25 * s, 0.36 * s, 40), amber);
    fill.position.set(x, -0.93 + 0.28 * s, z);
    scene.add(fill, cup);
  }

  const COUNT = 900;
  const drops = new THREE.InstancedMesh(
    new THREE.SphereGeometry(1, 12, 9),
    new THREE.MeshStandardMaterial({ color: '#c9620f', roughness: 0.08, emissive: '#7a2c04' }),
    COUNT,
  );
  drops.frustumCulled = false;
  drops.castShadow = true;
  const random = seededRandom(9);
  const wob = Array.from({ length: COUNT }, () => random() * 6.3);
  const splash = Array.from({ length: 150 }, () => ({
    birth: POUR_S[0] + FALL_S + random() * (POUR_S[1] - POUR_S[0]),
    angle: random() * 6.3,
    out: 0.15 + random() * 0.42,
    up: 0.7 + random() * 0.9,
    size: 0.008 + random() * 0.016,
  }));
  const beads = new THREE.InstancedMesh(new THREE.SphereGeometry(1, 12, 9), drops.material, splash.length);
  beads.frustumCulled = false;
  scene.add(drops, beads);
  const puff = puffTexture();
  const steam = Array.from({ length: 26 }, (_, i) => {
    const sprite = lightSprite(puff, new THREE.Color('#8f8ea8'), 0.5);
    scene.add(sprite);
    return { sprite, phase: i / 26, drift: random() - 0.5 };
  });

  const m = new THREE.Matrix4();
  const q = new THREE.Quaternion();
  const up = new THREE.Vector3(0, 1, 0);
  const pose = (timeS: number) => {
    far.pose(timeS);
    bulbs.pose(timeS, 0.4);
    const tilt = smoothstep(0, 0.4, timeS) - smoothstep(2.15, 2.7, timeS);
    pot.rotation.z = -0.12 - 0.42 * tilt + 0.01 * wander(timeS, 1);
    const tip = new THREE.Vector3(0.98, 0.4, 0).applyAxisAngle(new THREE.Vector3(0, 0, 1), pot.rotation.z);
    pot.position.set(SPOUT.x - tip.x, SPOUT.y - tip.y + 0.12 * (1 - tilt), 0);
    const span = POUR_S[1] - POUR_S[0];
    for (let i = 0; i < COUNT; i++) {
      const birth = POUR_S[0] + (i / COUNT) * span;
      const age = timeS - birth;
      const alive = age > 0 && age < FALL_S * 1.06;
      const p = dropAt(Math.max(0, age), wob[i]! * 0.15 + birth * 5);
      const v = dropAt(age + 0.01, wob[i]! * 0.15 + birth * 5)
        .sub(p)
        .normalize();
      const broken =
        smoothstep(FALL_S * 0.35, FALL_S, age) * (0.5 + 0.5 * Math.sin(i * 0.63 + wob[i]! * 0.4));
      const r = alive && p.y > MOUTH_Y - 0.25 ? 0.036 * (1 - 0.55 * broken) * smoothstep(0, 0.04, age) : 0;
      q.setFromUnitVectors(up, v);
      m.compose(p, q, new THREE.Vector3(r, r * (1.5 + 2.2 * age), r));
      drops.setMatrixAt(i, m);
    }
    drops.instanceMatrix.needsUpdate = true;
    const level = 0.06 + 0.42 * smoothstep(POUR_S[0] + FALL_S, POUR_S[1] + FALL_S, timeS);
    liquid.scale.y = level;
    liquid.position.y = -0.84 + level / 2;
    splash.forEach((s, i) => {
      const age = timeS - s.birth;
      const y = -0.5 + level * 0.5 + s.up * age - 0.5 * G * age * age;
      const r = age > 0 && age < 0.75 ? s.size : 0;
      m.compose(
        new THREE.Vector3(
          Math.cos(s.angle) * s.out * age * 1.2,
          Math.max(-0.88, y),
          Math.sin(s.angle) * s.out * age * 1.2,
        ),
        q.identity(),
        new THREE.Vector3(r, r, r),
      );
      beads.setMatrixAt(i, m);
    });
    beads.instanceMatrix.needsUpdate = true;
    for (const s of steam) {
      const u = (s.phase + timeS * 0.22) % 1;
      s.sprite.position.set(s.drift * 0.5 * u + 0.06 * wander(timeS, s.phase * 9), -0.3 + 1.5 * u, 0.1);
      s.sprite.scale.setScalar(0.2 + 0.8 * u);
      s.sprite.material.color
        .set('#8f8ea8')
        .multiplyScalar(0.075 * Math.sin(Math.PI * u) * smoothstep(0.6, 2, timeS));
    }
    camera.position.set(
      0.5 + 0.35 * timeS * 0.5 + 0.01 * wander(timeS, 3),
      0.55 + 0.01 * wander(timeS, 5),
      6.3 - 0.2 * timeS,
    );
    camera.lookAt(-0.3, 0.52, 0);
  };
  return { scene, camera, pose, exposure: 1.15 };
}
