/** A wall of paper pinwheels passed at a run, with a whip around the two-second mark. */
import * as THREE from 'three';
import type { Shot } from '../stage';
import {
  BulbString,
  fibreTexture,
  plankTexture,
  seededRandom,
  shadowLamp,
  smoothstep,
  solid,
  wander,
} from './market';

/** Where the runner is along the wall, metres, at `timeS`: a jog, a whip past, a jog. */
function runX(timeS: number): number {
  return -9 + 1.7 * timeS + 6.2 * smoothstep(1.9, 2.6, timeS) + 0.6 * smoothstep(3.6, 4.8, timeS);
}

/** One wheel's four folded blades as triangles, front and back colour by vertex. */
function wheelGeometry(front: THREE.Color, back: THREE.Color): THREE.BufferGeometry {
  const positions: number[] = [];
  const colors: number[] = [];
  const put = (p: [number, number, number], c: THREE.Color) => {
    positions.push(...p);
    colors.push(c.r, c.g, c.b);
  };
  for (let blade = 0; blade < 6; blade++) {
    const at = (r: number, deg: number, z: number): [number, number, number] => {
      const a = ((blade * 60 + deg) * Math.PI) / 180;
      return [Math.cos(a) * r, Math.sin(a) * r, z];
    };
    const centre: [number, number, number] = [0, 0, 0.02];
    const fold = at(0.2, 58, 0.1);
    for (const p of [centre, at(0.44, 0, 0), at(0.36, 44, 0.015)]) put(p, front);
    for (const p of [centre, at(0.36, 44, 0.015), fold]) put(p, back);
    for (const p of [fold, at(0.05, 20, 0.11), centre]) put(p, back);
  }
  const g = new THREE.BufferGeometry();
  g.setAttribute('position', new THREE.Float32BufferAttribute(positions, 3));
  g.setAttribute('color', new THREE.Float32BufferAttribute(colors, 3));
  g.computeVertexNormals();
  return g;
}

export function pinwheels(): Shot {
  const scene = new THREE.Scene();
  scene.background = new THREE.Color('#06070d');
  const camera = new THREE.PerspectiveCamera(46, 16 / 9, 0.1, 60);
  const wall = solid(
    new THREE.PlaneGeometry(40, 7),
    new THREE.MeshStandardMaterial({ map: plankTexture(11, '#274044'), roughness: 0.75 }),
  );
  (wall.material as THREE.MeshStandardMaterial).map!.repeat.set(12, 2.2);
  wall.position.set(0, 1.3, -0.35);
  scene.add(wall);

  const random = seededRandom(5);
  const paints = ['#ff5a36', '#ffc23d', '#2fb7a8', '#f3e9d8', '#e0427a', '#5a8cff', '#ff8f1f', '#9bd44a'].map(
    (c) => new THREE.Color(c),
  );
  const paper = new THREE.MeshStandardMaterial({
    vertexColors: true,
    side: THREE.DoubleSide,
    roughness: 0.8,
    map: null,
  });
  const shapes = Array.from({ length: 10 }, () => {
    const a = Math.floor(random() * paints.length);
    const b = (a + 1 + Math.floor(random() * (paints.length - 1))) % paints.length;
    return wheelGeometry(paints[a]!, paints[b]!);
  });
  const stick = new THREE.CylinderGeometry(0.018, 0.018, 1.1, 8);
  const bamboo = new THREE.MeshStandardMaterial({ map: fibreTexture(31, '#b08a4e', 0.1), roughness: 0.6 });
  const pin = new THREE.SphereGeometry(0.035, 14, 10);
  const brass = new THREE.MeshStandardMaterial({ color: '#e5b552', metalness: 0.7, roughness: 0.25 });
  const wheels: { spin: THREE.Mesh; x: number; rate: number; phase: number }[] = [];
  for (let col = 0; col < 36; col++)
    for (let row = 0; row < 4; row++) {
      const x = -15 + col * 0.86 + (row % 2) * 0.43 + (random() - 0.5) * 0.12;
      const y = -0.05 + row * 0.84 + (random() - 0.5) * 0.1;
      const size = 0.85 + random() * 0.3;
      const spin = solid(shapes[Math.floor(random() * shapes.length)]!, paper);
      spin.position.set(x, y, 0);
      spin.scale.setScalar(size);
      const rod = solid(stick, bamboo);
      rod.position.set(x, y - 0.55, -0.08);
      const nail = solid(pin, brass);
      nail.position.set(x, y, 0.1);
      scene.add(spin, rod, nail);
      wheels.push({ spin, x, rate: 1.5 + random() * 3.5, phase: random() * 6.3 });
    }
  const lights = [
    new BulbString(new THREE.Vector3(-16, 3.45, 0.3), new THREE.Vector3(0, 3.45, 0.3), 0.5, 26, '#ffb765', 0),
    new BulbString(new THREE.Vector3(0, 3.45, 0.3), new THREE.Vector3(16, 3.45, 0.3), 0.5, 26, '#ffb765', 1),
  ];
  scene.add(...lights.map((l) => l.group));
  const lamp = shadowLamp('#ffd09a', 60, new THREE.Vector3());
  lamp.angle = 1.1;
  const cool = new THREE.PointLight('#7090ff', 14, 0, 1.6);
  scene.add(lamp, lamp.target, cool, new THREE.HemisphereLight('#4a5078', '#3a2416', 1.1));

  const pose = (timeS: number) => {
    const x = runX(timeS);
    const speed = (runX(timeS + 0.01) - runX(timeS - 0.01)) / 0.02;
    for (const w of wheels) {
      const passed = (x - w.x) / Math.max(1.5, speed);
      const gust = passed > -0.25 ? 9 * (1 - Math.exp(-Math.max(0, passed + 0.25) * 3)) : 0;
      w.spin.rotation.z = -(w.phase + w.rate * timeS + gust * Math.min(3, Math.max(0, passed + 0.25)));
    }
    for (const l of lights) l.pose(timeS, 0.9);
    const stride = timeS * 2.7 * Math.PI * 2;
    const whip = Math.min(1, speed / 9);
    camera.position.set(
      x,
      1.25 + 0.05 * Math.abs(Math.sin(stride / 2)) + 0.02 * wander(timeS, 1),
      3.0 + 0.12 * wander(timeS, 2),
    );
    camera.rotation.set(
      0.03 * wander(timeS, 3) - 0.01,
      -0.42 + 0.1 * whip + 0.03 * wander(timeS, 4),
      0.02 * Math.sin(stride / 2) + 0.03 * whip,
      'YXZ',
    );
    lamp.position.set(x + 1.2, 4.4, 3.8);
    lamp.target.position.set(x + 1.6, 0.9, 0);
    cool.position.set(x - 2.5, 0.2, 2.2);
  };
  return { scene, camera, pose, exposure: 1.15 };
}
