export { isAllowed, parseRobots, robotsRule, type Robots, type RobotsGroup, type RobotsRule } from './robots.ts';
