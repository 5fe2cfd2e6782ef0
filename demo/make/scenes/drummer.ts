/** A wooden puppet drummer on strings strikes a big drum: slow lift, hard hit, dust off the skin. */
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
  seededRandom,
  shadowLamp,
  smoothstep,
  solid,
  wander,
} from './market';

/** The instants of the strikes, in seconds: left hand, right hand, both. */
export const STRIKES_S = [1.2, 2.4, 3.6] as const;

/** Lift of a stick, 0 on the skin to 1 at the top, at `t` seconds after (negative: before) its strike. */
function lift(t: number): number {
  if (t < -0.95) return 0.25;
  if (t < -0.13) return 0.25 + 0.75 * smoothstep(-0.95, -0.3, t);
  if (t < 0) return 1 - (1 + t / 0.13) ** 2.2;
  return 0.42 * Math.abs(Math.sin(Math.min(t, 0.5) * 9)) * Math.exp(-t * 4) + 0.25 * smoothstep(0.2, 0.8, t);
}

function liftOf(strikes: readonly number[], timeS: number): number {
  const nearest = strikes.reduce((a, b) => {
    const da = timeS - a < 0.55 ? Math.abs(timeS - a) : 9;
    const db = timeS - b < 0.55 ? Math.abs(timeS - b) : 9;
    return db < da ? b : a;
  });
  return lift(timeS - nearest);
}

export function drummer(): Shot {
  const scene = new THREE.Scene();
  const camera = new THREE.PerspectiveCamera(39, 16 / 9, 0.1, 100);
  const wood = new THREE.MeshStandardMaterial({ map: fibreTexture(3, '#8a5a34', 0.1), roughness: 0.55 });
  const dark = new THREE.MeshStandardMaterial({ map: fibreTexture(5, '#3a2016', 0.1), roughness: 0.6 });
  const coat = new THREE.MeshStandardMaterial({ map: fibreTexture(7, '#1f4a55', 0.16), roughness: 0.9 });
  const red = new THREE.MeshStandardMaterial({ map: fibreTexture(8, '#8e1f1a', 0.12), roughness: 0.42 });
  const skin = new THREE.MeshStandardMaterial({ map: fibreTexture(9, '#e2cfa4', 0.07), roughness: 0.7 });
  const brass = new THREE.MeshStandardMaterial({ color: '#d9a441', roughness: 0.28, metalness: 0.7 });

  const deck = solid(
    new THREE.PlaneGeometry(24, 10),
    new THREE.MeshStandardMaterial({ map: plankTexture(2, '#6b4c35'), roughness: 0.6 }),
  );
  (deck.material as THREE.MeshStandardMaterial).map!.repeat.set(6, 3);
  deck.rotation.x = -Math.PI / 2;
  deck.position.set(0, -1.15, -1);
  const sea = nightSea();
  const far = new FarLights(21, 46, 30, [-0.6, 5], -16, 1.05);
  const near = new FarLights(22, 9, 12, [1.4, 3.6], -7, 0.8);
  const strings = [
    new BulbString(new THREE.Vector3(-5, 3.2, -2.2), new THREE.Vector3(5, 3.0, -2.6), 0.8, 15, '#ffb765', 0),
    new BulbString(new THREE.Vector3(-5, 2.5, -5), new THREE.Vector3(5, 3.4, -5.5), 0.7, 17, '#ff9a55', 2),
  ];
  scene.add(duskDome(), sea.mesh, deck, far.group, near.group, ...strings.map((s) => s.group));

  const key = shadowLamp('#ffc987', 90, new THREE.Vector3(-3.2, 4.4, 3.6));
  key.target.position.set(0, 0, 0);
  const rim = new THREE.SpotLight('#6f8cff', 70, 0, 0.9, 0.6, 1.5);
  rim.position.set(3.8, 3.2, -3.4);
  rim.target.position.set(0, 0.6, 0);
  scene.add(key, key.target, rim, rim.target, new THREE.HemisphereLight('#39406b', '#2a160e', 0.9));

  const drum = new THREE.Group();
  const shell = solid(new THREE.CylinderGeometry(1.05, 0.86, 0.85, 64), red);
  const head = solid(new THREE.CylinderGeometry(1.03, 1.03, 0.05, 64), skin);
  head.position.y = 0.44;
  drum.add(shell, head);
  for (const y of [0.4, -0.38]) {
    const hoop = solid(new THREE.TorusGeometry(y > 0 ? 1.06 : 0.88, 0.045, 12, 72), brass);
    hoop.rotation.x = Math.PI / 2;
    hoop.position.y = y;
    drum.add(hoop);
  }
  for (let i = 0; i < 24; i++) {
    const a = (i / 24) * Math.PI * 2;
    const tilt = i % 2 ? 0.12 : -0.12;
    const cord = solid(new THREE.CylinderGeometry(0.014, 0.014, 0.82, 6), skin);
    cord.position.set(Math.cos(a) * 1.0, 0, Math.sin(a) * 1.0);
    cord.rotation.set(0, -a, tilt, 'YXZ');
    drum.add(cord);
  }
  drum.position.set(0, -0.7, 0.35);
  drum.rotation.x = 0.16;
  scene.add(drum);

  const puppet = new THREE.Group();
  const body = solid(new THREE.CapsuleGeometry(0.3, 0.55, 8, 24), coat);
  const belt = solid(new THREE.TorusGeometry(0.31, 0.05, 10, 40), brass);
  belt.rotation.x = Math.PI / 2;
  belt.position.y = -0.12;
  const neck = new THREE.Group();
  neck.position.y = 0.68;
  const face = solid(new THREE.SphereGeometry(0.29, 40, 28), wood);
  face.scale.set(1, 1.12, 0.95);
  face.position.y = 0.2;
  const cap = solid(new THREE.ConeGeometry(0.33, 0.42, 40), red);
  cap.position.y = 0.58;
  const brim = solid(new THREE.TorusGeometry(0.3, 0.05, 10, 40), brass);
  brim.rotation.x = Math.PI / 2;
  brim.position.y = 0.38;
  const nose = solid(new THREE.ConeGeometry(0.05, 0.2, 16), red);
  nose.rotation.x = Math.PI / 2;
  nose.position.set(0, 0.18, 0.34);
  neck.add(face, cap, brim, nose);
  for (const x of [-0.1, 0.1]) {
    const eye = new THREE.Mesh(
      new THREE.SphereGeometry(0.035, 12, 10),
      new THREE.MeshStandardMaterial({ color: '#0a0605', roughness: 0.1 }),
    );
    eye.position.set(x, 0.25, 0.265);
    neck.add(eye);
  }
  puppet.add(body, belt, neck);
  puppet.position.set(0, 0.55, -0.55);
  scene.add(puppet);

  const arms = [-1, 1].map((side) => {
    const shoulder = new THREE.Group();
    shoulder.position.set(0.36 * side, 0.42, 0.05);
    const upper = solid(new THREE.CapsuleGeometry(0.085, 0.34, 6, 16), coat);
    upper.position.y = -0.22;
    const elbow = new THREE.Group();
    elbow.position.y = -0.46;
    const fore = solid(new THREE.CapsuleGeometry(0.07, 0.32, 6, 16), wood);
    fore.position.y = -0.2;
    const hand = solid(new THREE.SphereGeometry(0.1, 20, 16), wood);
    hand.position.y = -0.44;
    const stick = solid(new THREE.CylinderGeometry(0.028, 0.022, 0.72, 12), dark);
    stick.position.set(0, -0.6, 0.2);
    stick.rotation.x = -0.75;
    const tip = solid(new THREE.SphereGeometry(0.075, 20, 16), skin);
    tip.position.set(0, -0.86, 0.44);
    elbow.add(fore, hand, stick, tip);
    shoulder.add(upper, elbow);
    puppet.add(shoulder);
    return { side, shoulder, elbow };
  });
  const wires = [-1, 0, 1].map((side) => {
    const wire = new THREE.Mesh(
      new THREE.CylinderGeometry(0.005, 0.005, 4, 5),
      new THREE.MeshBasicMaterial({ color: '#6b5a48' }),
    );
    wire.position.set(side * 0.42, 3.1, -0.5 + (side === 0 ? 0 : 0.25));
    scene.add(wire);
    return wire;
  });

  const puff = puffTexture();
  const random = seededRandom(77);
  const dust = Array.from({ length: 110 }, (_, i) => {
    const sprite = lightSprite(puff, new THREE.Color('#ffcf94'), 0.05 + random() * 0.1);
    scene.add(sprite);
    const angle = random() * Math.PI * 2;
    return {
      sprite,
      strike: STRIKES_S[i % 3]!,
      angle,
      reach: 0.3 + random() * 0.8,
      up: 0.9 + random() * 2,
      radius: random() * 0.8,
    };
  });

  const pose = (timeS: number) => {
    sea.pose(timeS);
    far.pose(timeS);
    near.pose(timeS);
    for (const s of strings) s.pose(timeS);
    const leftLift = liftOf([STRIKES_S[0], STRIKES_S[2]], timeS);
    const rightLift = liftOf([STRIKES_S[1], STRIKES_S[2]], timeS);
    for (const { side, shoulder, elbow } of arms) {
      const l = side < 0 ? leftLift : rightLift;
      shoulder.rotation.set(-0.62 - l * 1.75, 0, side * (0.12 + l * 0.42));
      elbow.rotation.set(-0.55 - l * 0.75, 0, -side * 0.18 * l);
    }
    const since = Math.min(...STRIKES_S.map((s) => (timeS >= s ? timeS - s : 9)));
    const ring = Math.exp(-since * 6) * Math.sin(since * 70);
    head.position.y = 0.44 - 0.03 * ring;
    drum.position.y = -0.7 - 0.03 * Math.exp(-since * 9);
    const bounce = Math.exp(-since * 5) * Math.sin(since * 16);
    puppet.position.y = 0.57 + 0.05 * bounce + 0.05 * (leftLift + rightLift) * 0.5 + 0.015 * wander(timeS, 1);
    puppet.rotation.set(
      0.08 - 0.12 * (leftLift + rightLift) * 0.5,
      0.14 * (rightLift - leftLift),
      0.1 * (leftLift - rightLift),
    );
    neck.rotation.set(
      0.18 - 0.3 * Math.max(leftLift, rightLift) + 0.16 * bounce,
      0.25 * (rightLift - leftLift) + 0.06 * wander(timeS, 4),
      0.06 * wander(timeS, 2),
    );
    wires.forEach((w, i) => (w.rotation.z = 0.01 * wander(timeS, i + 6)));
    for (const d of dust) {
      const age = timeS - d.strike;
      d.sprite.visible = age > 0 && age < 1;
      if (!d.sprite.visible) continue;
      const r = d.radius + d.reach * (1 - Math.exp(-age * 4));
      d.sprite.position.set(
        Math.cos(d.angle) * r,
        -0.22 + d.up * age - 2.4 * age * age,
        0.35 + Math.sin(d.angle) * r,
      );
      d.sprite.material.color.set('#ffcf94').multiplyScalar(0.8 * (1 - age) ** 2);
    }
    const push = smoothstep(0, 5, timeS);
    const kick = 0.012 * Math.exp(-since * 10) * Math.sin(since * 60);
    camera.position.set(
      0.55 - 0.9 * push + 0.03 * wander(timeS, 8),
      0.75 + 0.03 * wander(timeS, 9) + kick,
      5.5 - 0.7 * push,
    );
    camera.lookAt(0.03 * wander(timeS, 10), 0.36 + kick, -0.1);
    key.intensity = 90 * (1 + 0.05 * wander(timeS * 3, 12));
  };
  return { scene, camera, pose, exposure: 1.1 };
}
