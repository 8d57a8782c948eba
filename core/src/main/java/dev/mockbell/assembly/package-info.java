/** The core put together, as every program uses it. In: a user's folders and environment; out: callers, benches, runners. */
package dev.mockbell.assembly;
