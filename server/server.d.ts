import { type FastifyInstance } from 'fastify';
/**
 * Serves the built application at `/` and the demo at `/demo/`, with byte ranges, cross-origin
 * isolation and a policy that allows nothing from elsewhere.
 */
export declare function createServer(): Promise<FastifyInstance>;
