/**
 * WS-Security on what is sent and what comes back: an envelope goes in, the same with a security header comes out; an answer
 * goes in, whose it is and what it says comes out. Made by WSS4J. What a header holds is
 * decided above, in a profile.
 */
package dev.mockbell.security;
