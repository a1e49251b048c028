import { createChannel, createSession, type Channel } from 'better-sse';
import type { RequestHandler } from 'express';
import type { ServerEvents } from '#core/contract/http';

/** Progress to every open page, by server-sent events. */
export class Events {
  private readonly channel: Channel = createChannel();

  send<Name extends keyof ServerEvents>(name: Name, data: ServerEvents[Name]): void {
    this.channel.broadcast(data, name);
  }

  readonly listen: RequestHandler = async (request, response) => {
    const session = await createSession(request, response);
    this.channel.register(session);
  };
}
