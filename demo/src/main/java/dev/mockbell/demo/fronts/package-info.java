/**
 * What stands before the services of the stand-in: logins, TLS, checks on messages, slowness. In: the handlers of the
 * services; out: servers on ports of their own. Its keys are made when it starts.
 */
package dev.mockbell.demo.fronts;
