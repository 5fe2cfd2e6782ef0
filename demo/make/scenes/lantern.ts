/** A lit paper lantern is thrown up over the pier, hangs, turns, and falls back into two hands. */
import * as THREE from 'three';
import type { Shot } from '../stage';
import {
  BulbString,
  FarLights,
  duskDome,
  fibreTexture,
  lightSprite,
  nightSea,
  plankTexture,
  puffTexture,
  smoothstep,
  solid,
  wander,
} from './market';

/** The throw and the catch, seconds. */
export const THROW_S = 0.9;
export const CATCH_S = 2.9;
const REST = new THREE.Vector3(0, 0.12, 0.3);

function lanternAt(timeS: number): THREE.Vector3 {
  const flight = CATCH_S - THROW_S;
  if (timeS < THROW_S) {
    const dip = smoothstep(0.3, 0.68, timeS) * (1 - smoothstep(0.68, THROW_S, timeS));
    return REST.clone().add(new THREE.Vector3(0, -0.28 * dip, 0));
  }
  if (timeS > CATCH_S) {
    const t = timeS - CATCH_S;
    return REST.clone().add(new THREE.Vector3(0, -0.34 * Math.exp(-t * 4.5) * Math.sin(t * 9), 0));
  }
  const u = (timeS - THROW_S) / flight;
  return REST.clone().add(new THREE.Vector3(0.22 * Math.sin(Math.PI * 2 * u), 1.85 * 4 * u * (1 - u), 0));
}

export function lantern(): Shot {
  const scene = new THREE.Scene();
  const camera = new THREE.PerspectiveCamera(38, 16 / 9, 0.1, 100);
  const sea = nightSea();
  const deck = solid(
    new THREE.PlaneGeometry(20, 8),
    new THREE.MeshStandardMaterial({ map: plankTexture(71, '#6b4c35'), roughness: 0.55 }),
  );
  (deck.material as THREE.MeshStandardMaterial).map!.repeat.set(5, 2.5);
  deck.rotation.x = -Math.PI / 2;
  deck.position.set(0, -1.5, 0);
  const far = new FarLights(81, 50, 32, [-0.8, 3.4], -17, 0.95);
  const strings = [
    new BulbString(new THREE.Vector3(-6, 3.6, -4), new THREE.Vector3(6, 3.3, -4.5), 0.9, 19, '#ff9a55', 0),
    new BulbString(new THREE.Vector3(-6, 2.3, -6.5), new THREE.Vector3(6, 3, -6), 0.5, 21, '#ffb765', 3),
  ];
  scene.add(duskDome('#6b3345', '#060a20'), sea.mesh, deck, far.group, ...strings.map((s) => s.group));
  scene.add(new THREE.HemisphereLight('#4654a0', '#20120c', 0.7));
  const moon = new THREE.DirectionalLight('#7f95ff', 0.7);
  moon.position.set(4, 5, -4);
  scene.add(moon);

  const lamp = new THREE.Group();
  const ribs: THREE.Vector2[] = [];
  for (let i = 0; i <= 60; i++) {
    const u = i / 60;
    const r = 0.4 * Math.sqrt(Math.max(0.06, 1 - (2 * u - 1) ** 2)) + 0.012 * Math.cos(u * Math.PI * 20);
    ribs.push(new THREE.Vector2(r, (u - 0.5) * 0.86));
  }
  const paper = new THREE.MeshStandardMaterial({
    map: fibreTexture(91, '#ffb45e', 0.1),
    emissive: '#ff7a22',
    emissiveMap: fibreTexture(92, '#ffd7a0', 0.16),
    emissiveIntensity: 1.9,
    roughness: 0.9,
    side: THREE.DoubleSide,
  });
  lamp.add(new THREE.Mesh(new THREE.LatheGeometry(ribs, 48), paper));
  const rim = new THREE.MeshStandardMaterial({ color: '#2a1208', roughness: 0.5 });
  for (const y of [0.44, -0.44]) {
    const ring = new THREE.Mesh(new THREE.CylinderGeometry(0.13, 0.13, 0.06, 32), rim);
    ring.position.y = y;
    lamp.add(ring);
  }
  const tassel = new THREE.Group();
  tassel.position.y = -0.46;
  for (let i = 0; i < 9; i++) {
    const thread = new THREE.Mesh(
      new THREE.CylinderGeometry(0.008, 0.012, 0.36, 5),
      new THREE.MeshStandardMaterial({ color: '#c22a1e', emissive: '#3a0805' }),
    );
    thread.position.set(Math.cos(i * 0.7) * 0.04, -0.2, Math.sin(i * 0.7) * 0.04);
    tassel.add(thread);
  }
  lamp.add(tassel);
  const glyph = new THREE.Mesh(
    new THREE.RingGeometry(0.1, 0.14, 40),
    new THREE.MeshBasicMaterial({ color: '#5a1408', side: THREE.DoubleSide }),
  );
  glyph.position.z = 0.425;
  const glyph2 = glyph.clone();
  glyph2.position.z = -0.425;
  lamp.add(glyph, glyph2);
  const light = new THREE.PointLight('#ff9440', 26, 0, 1.7);
  light.castShadow = true;
  light.shadow.mapSize.set(512, 512);
  light.shadow.bias = -0.004;
  light.shadow.camera.near = 0.55;
  lamp.add(light);
  const halo = lightSprite(puffTexture(), new THREE.Color('#ff9440').multiplyScalar(0.55), 3.2);
  scene.add(lamp, halo);

  const skin = new THREE.MeshStandardMaterial({ color: '#a5704f', roughness: 0.65 });
  const sleeve = new THREE.MeshStandardMaterial({ map: fibreTexture(93, '#23324f', 0.15), roughness: 0.95 });
  const arms = [-1, 1].map((side) => {
    const arm = new THREE.Group();
    const cloth = solid(new THREE.CapsuleGeometry(0.17, 1.1, 8, 20), sleeve);
    cloth.position.set(0, -0.95, 0.16);
    cloth.rotation.x = -0.2;
    const wrist = solid(new THREE.CapsuleGeometry(0.085, 0.3, 8, 16), skin);
    wrist.position.y = -0.22;
    const palm = solid(new THREE.SphereGeometry(0.15, 24, 18), skin);
    palm.scale.set(0.62, 1.05, 1);
    arm.add(cloth, wrist, palm);
    for (let f = 0; f < 4; f++) {
      const finger = solid(new THREE.CapsuleGeometry(0.036, 0.19, 6, 12), skin);
      finger.position.set(
        -side * (0.03 + f * 0.006),
        0.18 + (f === 0 || f === 3 ? -0.02 : 0.01),
        0.1 - f * 0.065,
      );
      finger.rotation.set(0.12 - f * 0.06, 0, side * 0.4);
      arm.add(finger);
    }
    const thumb = solid(new THREE.CapsuleGeometry(0.042, 0.14, 6, 12), skin);
    thumb.position.set(-side * 0.1, 0.06, 0.13);
    thumb.rotation.z = side * 0.9;
    arm.add(thumb);
    scene.add(arm);
    return { arm, side };
  });

  const pose = (timeS: number) => {
    sea.pose(timeS);
    far.pose(timeS);
    for (const s of strings) s.pose(timeS);
    const p = lanternAt(timeS);
    lamp.position.copy(p);
    const air =
      smoothstep(THROW_S, THROW_S + 0.3, timeS) * (1 - smoothstep(CATCH_S - 0.15, CATCH_S + 0.2, timeS));
    lamp.rotation.set(
      0.35 * air * Math.sin(timeS * 2.2),
      2 * Math.PI * smoothstep(THROW_S, CATCH_S, timeS) + 0.1 * wander(timeS, 1),
      0.3 * air * Math.sin(timeS * 3),
    );
    const vy = lanternAt(timeS + 0.01).y - lanternAt(timeS - 0.01).y;
    tassel.rotation.set(vy * 6, 0, 0.15 * wander(timeS * 2, 5));
    const flicker = 1 + 0.06 * wander(timeS * 5, 3);
    light.intensity = 26 * flicker;
    paper.emissiveIntensity = 1.9 * flicker;
    halo.position.copy(p).setZ(p.z - 0.2);
    const held = Math.min(p.y, REST.y + 0.24);
    for (const { arm, side } of arms) {
      const open = 0.06 + 0.24 * air;
      arm.position.set(side * (0.36 + open), held - 0.12 + 0.14 * air, REST.z + 0.1);
      arm.rotation.set(-0.1, 0, side * (-0.16 - 0.12 * air));
    }
    camera.position.set(
      -0.5 + 0.25 * timeS * 0.6 + 0.03 * wander(timeS, 8),
      0.5 + 0.02 * wander(timeS, 9),
      5.2,
    );
    camera.lookAt(0, 0.72 + 0.42 * smoothstep(0.6, 1.7, timeS) - 0.42 * smoothstep(2, 3, timeS), 0);
  };
  return { scene, camera, pose, exposure: 1.05 };
}
