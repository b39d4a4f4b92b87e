export { ZestySieve, ZestySieveProblem, type ClientOptions } from './client.ts';
