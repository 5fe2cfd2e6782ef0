/** A wooden runner with a lantern passes a wall of pinwheels, behind a post. The camera stands still. */
import * as THREE from 'three';
import type { Shot } from '../stage';
import {
  BulbString,
  fibreTexture,
  lightSprite,
  plankTexture,
  puffTexture,
  shadowLamp,
  solid,
} from './market';
import { wheelWall } from './wheels';

/** Strides a second, each of two steps. */
const STRIDES_HZ = 2.7;
const runX = (timeS: number): number => -4.9 + 3.3 * timeS;

/** A limb of two parts that hangs from a joint. */
function limb(long: number, thick: number, upper: THREE.Material, lower: THREE.Material) {
  const joint = new THREE.Group();
  const bend = new THREE.Group();
  const part = (material: THREE.Material, width: number) => {
    const mesh = solid(new THREE.CapsuleGeometry(width, long, 6, 16), material);
    mesh.position.y = -long / 2;
    return mesh;
  };
  bend.position.y = -long - thick / 2;
  bend.add(part(lower, thick * 0.85));
  joint.add(part(upper, thick), bend);
  return { joint, bend, long };
}

export function runner(): Shot {
  const scene = new THREE.Scene();
  scene.background = new THREE.Color('#06070d');
  const camera = new THREE.PerspectiveCamera(42, 16 / 9, 0.1, 60);
  camera.position.set(0, 1.02, 6.1);
  camera.rotation.set(-0.01, 0, 0);
  // No wind: the wheels stand still, each as it came to rest.
  for (const { spin, phase } of wheelWall(scene)) spin.rotation.z = phase;
  const floor = solid(
    new THREE.PlaneGeometry(30, 8),
    new THREE.MeshStandardMaterial({ map: plankTexture(4, '#6b4c35'), roughness: 0.6 }),
  );
  (floor.material as THREE.MeshStandardMaterial).map!.repeat.set(8, 3);
  floor.rotation.x = -Math.PI / 2;
  floor.position.set(0, -0.55, 2);
  const bulbs = new BulbString(
    ...([new THREE.Vector3(-7, 3.3, 0.4), new THREE.Vector3(7, 3.3, 0.4), 0.45, 24, '#ffb765', 0] as const),
  );
  const wood = new THREE.MeshStandardMaterial({ map: fibreTexture(3, '#8a5a34', 0.1), roughness: 0.55 });
  const coat = new THREE.MeshStandardMaterial({ map: fibreTexture(7, '#8e1f1a', 0.16), roughness: 0.9 });
  const trousers = new THREE.MeshStandardMaterial({ map: fibreTexture(8, '#1f4a55', 0.12), roughness: 0.8 });
  const brass = new THREE.MeshStandardMaterial({ color: '#d9a441', roughness: 0.28, metalness: 0.7 });

  const figure = new THREE.Group();
  const body = solid(new THREE.CapsuleGeometry(0.24, 0.42, 8, 24), coat);
  body.position.y = 0.95;
  const belt = solid(new THREE.TorusGeometry(0.25, 0.035, 10, 36), brass);
  belt.rotation.x = Math.PI / 2;
  belt.position.y = 0.78;
  const head = new THREE.Group();
  head.position.y = 1.6;
  const face = solid(new THREE.SphereGeometry(0.22, 32, 24), wood);
  const cap = solid(new THREE.ConeGeometry(0.24, 0.34, 32), coat);
  cap.position.y = 0.28;
  const nose = solid(new THREE.ConeGeometry(0.045, 0.16, 14), coat);
  nose.rotation.z = -Math.PI / 2;
  nose.position.set(0.26, 0, 0);
  head.add(face, cap, nose);
  const legs = [-1, 1].map((side) => {
    const leg = limb(0.38, 0.1, trousers, wood);
    leg.joint.position.set(0, 0.62, 0.12 * side);
    return { ...leg, side };
  });
  const arms = [-1, 1].map((side) => {
    const arm = limb(0.28, 0.075, coat, wood);
    arm.joint.position.set(0, 1.2, 0.27 * side);
    return { ...arm, side };
  });
  figure.add(body, belt, head, ...legs.map((l) => l.joint), ...arms.map((a) => a.joint));
  const glow = new THREE.Mesh(
    new THREE.SphereGeometry(0.13, 24, 18),
    new THREE.MeshBasicMaterial({ color: new THREE.Color('#ffb24a').multiplyScalar(5) }),
  );
  const halo = lightSprite(puffTexture(), new THREE.Color('#ff9a3c'), 0.9);
  const flame = new THREE.PointLight('#ffae52', 16, 0, 1.7);
  figure.add(glow, halo, flame);
  scene.add(figure);

  const post = solid(
    new THREE.BoxGeometry(0.5, 5, 0.3),
    new THREE.MeshStandardMaterial({ map: plankTexture(9, '#54392a'), roughness: 0.7 }),
  );
  post.position.set(0.35, 1.2, 2.1);
  const band = solid(new THREE.BoxGeometry(0.54, 0.12, 0.34), brass);
  band.position.set(0.35, 1.9, 2.1);
  const lamp = shadowLamp('#ffd09a', 16, new THREE.Vector3(-2, 4.6, 4.4));
  lamp.target.position.set(0.3, 0.8, 0);
  const cool = new THREE.PointLight('#7090ff', 9, 0, 1.6);
  cool.position.set(-3.5, 0.3, 3);
  scene.add(floor, bulbs.group, post, band, lamp, lamp.target, cool);
  scene.add(new THREE.HemisphereLight('#4a5078', '#3a2416', 0.5));

  const pose = (timeS: number) => {
    const x = runX(timeS);
    const stride = timeS * STRIDES_HZ * Math.PI * 2;
    figure.position.set(x, -0.36 + 0.09 * Math.abs(Math.sin(stride)), 1.2);
    figure.rotation.z = -0.16;
    for (const { joint, bend, side } of legs) {
      const swing = Math.sin(stride + (side > 0 ? Math.PI : 0));
      joint.rotation.z = 0.95 * swing;
      bend.rotation.z = -0.5 - 0.6 * Math.cos(stride + (side > 0 ? Math.PI : 0));
    }
    for (const { joint, bend, side } of arms) {
      // The one that carries the lantern is held out.
      joint.rotation.z = side > 0 ? 1.35 + 0.12 * Math.sin(stride) : -0.8 * Math.sin(stride);
      bend.rotation.z = side > 0 ? 0.25 : 0.9;
    }
    glow.position.set(0.78, 1.2 + 0.05 * Math.sin(stride), 0.27);
    halo.position.copy(glow.position);
    flame.position.copy(glow.position);
    bulbs.pose(timeS, 0.3);
  };
  return { scene, camera, pose, exposure: 1.15 };
}
