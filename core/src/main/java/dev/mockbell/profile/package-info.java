/**
 * Holds the documents of a contract against the WS-I Basic Profile 1.1 and 2.0, as far as a breach can be seen in them. In:
 * the documents; out: {@link dev.mockbell.profile.Breach}es with the number of the rule. A rule is one line in a list of
 * {@code BasicProfile} and one small method.
 */
package dev.mockbell.profile;
