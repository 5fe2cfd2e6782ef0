/** A wall of paper pinwheels passed at a run, with a whip around the two-second mark. */
import * as THREE from 'three';
import type { Shot } from '../stage';
import { BulbString, shadowLamp, smoothstep, wander } from './market';
import { wheelWall } from './wheels';

/** Where the runner is along the wall, metres, at `timeS`: a jog, a whip past, a jog. */
function runX(timeS: number): number {
  return -9 + 1.7 * timeS + 6.2 * smoothstep(1.9, 2.6, timeS) + 0.6 * smoothstep(3.6, 4.8, timeS);
}

export function pinwheels(): Shot {
  const scene = new THREE.Scene();
  scene.background = new THREE.Color('#06070d');
  const camera = new THREE.PerspectiveCamera(46, 16 / 9, 0.1, 60);
  const wheels = wheelWall(scene);
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
