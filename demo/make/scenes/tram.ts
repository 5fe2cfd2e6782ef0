/** A lit tram crosses behind a stall of lanterns that swing with a period of exactly two seconds. */
import * as THREE from 'three';
import type { Shot } from '../stage';
import {
  BulbString,
  FarLights,
  duskDome,
  fibreTexture,
  plankTexture,
  seededRandom,
  shadowLamp,
  solid,
  wander,
} from './market';

/** Period of everything in the foreground, seconds: any two seconds without the tram loop. */
export const SWING_S = 2;

export function tram(): Shot {
  const scene = new THREE.Scene();
  const camera = new THREE.PerspectiveCamera(36, 16 / 9, 0.1, 100);
  const ground = solid(
    new THREE.PlaneGeometry(40, 16),
    new THREE.MeshStandardMaterial({ map: plankTexture(101, '#4d4340'), roughness: 0.35, metalness: 0.1 }),
  );
  (ground.material as THREE.MeshStandardMaterial).map!.repeat.set(9, 4);
  ground.rotation.x = -Math.PI / 2;
  ground.position.set(0, -1.3, -4);
  const far = new FarLights(111, 44, 36, [-0.4, 5.5], -18, 1.1);
  const bulbs = new BulbString(
    new THREE.Vector3(-6, 3.2, -1),
    new THREE.Vector3(6, 3.1, -1.2),
    0.5,
    17,
    '#ffb765',
    0,
  );
  scene.add(duskDome('#3a2a4c', '#060914'), ground, far.group, bulbs.group);
  const key = shadowLamp('#ffc48a', 60, new THREE.Vector3(-2, 4.5, 4));
  scene.add(key, key.target, new THREE.HemisphereLight('#56609a', '#3c2818', 1.7));

  const car = new THREE.Group();
  const paint = new THREE.MeshStandardMaterial({
    map: fibreTexture(121, '#1d6b52', 0.06),
    roughness: 0.3,
    metalness: 0.2,
  });
  const cream = new THREE.MeshStandardMaterial({ map: fibreTexture(122, '#d8c79c', 0.05), roughness: 0.4 });
  const iron = new THREE.MeshStandardMaterial({ color: '#14110f', roughness: 0.6 });
  const lower = solid(new THREE.BoxGeometry(8, 0.85, 1.5), paint);
  lower.position.y = -0.55;
  const upper = solid(new THREE.BoxGeometry(8, 1.0, 1.44), cream);
  upper.position.y = 0.38;
  const roof = solid(new THREE.CapsuleGeometry(0.42, 7.4, 8, 20), paint);
  roof.rotation.z = Math.PI / 2;
  roof.scale.set(0.5, 1, 1.6);
  roof.position.y = 0.95;
  car.add(lower, upper, roof);
  const random = seededRandom(13);
  for (let i = 0; i < 9; i++) {
    const pane = new THREE.Mesh(
      new THREE.PlaneGeometry(0.66, 0.66),
      new THREE.MeshBasicMaterial({ color: new THREE.Color('#ffca7a').multiplyScalar(1.5 + random() * 0.7) }),
    );
    pane.position.set(-3.52 + i * 0.88, 0.42, 0.726);
    car.add(pane);
    if (random() < 0.7) {
      const rider = new THREE.Mesh(new THREE.CapsuleGeometry(0.13, 0.2, 6, 14), iron);
      rider.position.set(-3.52 + i * 0.88 + (random() - 0.5) * 0.25, 0.2, 0.74);
      const hair = new THREE.Mesh(new THREE.SphereGeometry(0.1, 16, 12), iron);
      hair.position.set(rider.position.x, 0.5, 0.74);
      car.add(rider, hair);
    }
  }
  for (const x of [-2.8, -1.9, 1.9, 2.8]) {
    const wheel = solid(new THREE.CylinderGeometry(0.27, 0.27, 0.2, 28), iron);
    wheel.rotation.x = Math.PI / 2;
    wheel.position.set(x, -1.02, 0.6);
    car.add(wheel);
  }
  const stripe = new THREE.Mesh(
    new THREE.PlaneGeometry(8, 0.07),
    new THREE.MeshBasicMaterial({ color: '#e0b64e' }),
  );
  stripe.position.set(0, -0.2, 0.76);
  const eye = new THREE.PointLight('#fff0c8', 40, 0, 1.6);
  eye.position.set(4.6, -0.3, 0);
  const cabin = new THREE.PointLight('#ffb860', 16, 0, 1.6);
  cabin.position.set(0, 0.4, 1.6);
  car.add(stripe, eye, cabin);
  scene.add(car);

  const counter = solid(
    new THREE.BoxGeometry(7.5, 0.9, 0.8),
    new THREE.MeshStandardMaterial({ map: plankTexture(131, '#7d4a2a'), roughness: 0.6 }),
  );
  counter.position.set(0, -1.1, 1.4);
  const beam = solid(new THREE.BoxGeometry(9, 0.14, 0.14), iron);
  beam.position.set(0, 2.02, 1.4);
  scene.add(counter, beam);
  const paints = ['#ff7b2e', '#ff4d3a', '#ffb545', '#ff6a88', '#ffcf6b'];
  const lanterns = Array.from({ length: 7 }, (_, i) => {
    const pivot = new THREE.Group();
    pivot.position.set(-3 + i, 2, 1.4);
    const long = 0.55 + 0.28 * (i % 3);
    const cord = new THREE.Mesh(new THREE.CylinderGeometry(0.008, 0.008, long, 5), iron);
    cord.position.y = -long / 2;
    const tint = new THREE.Color(paints[i % paints.length]);
    const shade = new THREE.Mesh(
      new THREE.SphereGeometry(0.24, 32, 24),
      new THREE.MeshStandardMaterial({
        color: tint,
        emissive: tint,
        emissiveIntensity: 0.85,
        map: fibreTexture(140 + i, '#ffffff', 0.14),
        roughness: 0.9,
      }),
    );
    shade.scale.y = 0.85 + 0.25 * (i % 2);
    shade.position.y = -long - 0.22;
    const cap = new THREE.Mesh(new THREE.CylinderGeometry(0.09, 0.09, 0.05, 20), iron);
    cap.position.y = -long - 0.01;
    pivot.add(cord, shade, cap);
    scene.add(pivot);
    return { pivot, phase: i * 0.7 };
  });
  const glow = new THREE.PointLight('#ff9a50', 9, 0, 1.6);
  glow.position.set(0, 0.9, 2.2);
  scene.add(glow);
  for (let i = 0; i < 9; i++) {
    const bowl = solid(
      new THREE.SphereGeometry(0.17, 28, 14, 0, 6.3, 1.57, 1.57),
      new THREE.MeshStandardMaterial({
        map: fibreTexture(160 + i, i % 2 ? '#c9d0d4' : '#3f6f8f', 0.06),
        roughness: 0.3,
        side: THREE.DoubleSide,
      }),
    );
    bowl.position.set(-2.9 + i * 0.72, -0.48, 1.35 + (i % 2) * 0.2);
    scene.add(bowl);
  }

  const pose = (timeS: number) => {
    const cycle = (2 * Math.PI * timeS) / SWING_S;
    far.pose((2 * Math.PI * timeS) / (SWING_S * 3.1));
    bulbs.pose(timeS, 1 / SWING_S);
    for (const { pivot, phase } of lanterns)
      pivot.rotation.set(0.05 * Math.sin(cycle + phase * 1.7), 0, 0.15 * Math.sin(cycle + phase));
    car.position.set(-13 + 8.2 * (timeS - 1.9), 0.28 + 0.015 * wander(timeS * 4, 1), -2.6);
    car.visible = timeS > 1.6;
    camera.position.set(0.16 * Math.sin(cycle), 0.55 + 0.04 * Math.cos(cycle), 6.2);
    camera.lookAt(0, 0.4, 0);
  };
  return { scene, camera, pose, exposure: 1.1 };
}
