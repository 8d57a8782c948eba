/**
 * Who calls, and whom it trusts. A {@code Profile} is named once in a project and picked for an environment's endpoint or by a
 * case; with the values of its expressions it becomes the {@code Connect} that a call is made by.
 */
package dev.mockbell.access;
