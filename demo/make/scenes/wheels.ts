/** Paper pinwheels in rows on a wall of planks. */
import * as THREE from 'three';
import { fibreTexture, plankTexture, seededRandom, solid } from './market';

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

/** One wheel: what turns, where along the wall it hangs, and how it turns by itself. */
export interface Wheel {
  readonly spin: THREE.Mesh;
  readonly x: number;
  readonly rate: number;
  readonly phase: number;
}

/** The wall with its wheels, added to a scene. */
export function wheelWall(scene: THREE.Scene): readonly Wheel[] {
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
  const wheels: Wheel[] = [];
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
  return wheels;
}
