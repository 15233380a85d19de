import type { DemoSound } from '../types';
import { buoyBell } from './buoyBell';
import { doorLatch } from './doorLatch';
import { foghorn } from './foghorn';
import { galleryWind } from './galleryWind';
import { gull } from './gull';
import { keepersWaltz } from './keepersWaltz';
import { lampMotor } from './lampMotor';
import { lanternRoom } from './lanternRoom';
import { rain } from './rain';
import { surfBed } from './surfBed';
import { thunder } from './thunder';

/** Marrow Skerry, a lighthouse in a storm: the sounds of its small game and web page. */
export const demoSounds: readonly DemoSound[] = [
  foghorn,
  surfBed,
  lampMotor,
  doorLatch,
  gull,
  buoyBell,
  rain,
  galleryWind,
  keepersWaltz,
  thunder,
  lanternRoom,
];
