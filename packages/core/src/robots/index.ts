export { isAllowed, parseRobots, findRobotsRule, type Robots, type RobotsGroup, type RobotsRule } from './robots.ts';
