/**
 * WS-Security on what is sent: an envelope goes in, the same with a security header comes out, made by WSS4J. What it holds is
 * decided above, in a profile.
 */
package dev.mockbell.security;
