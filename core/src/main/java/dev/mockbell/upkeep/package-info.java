/**
 * What a project must do when a contract of it became another. In: a project and the changes; out: the cases, checks, mock
 * answers and known values that they touch, and what could be done about each.
 */
package dev.mockbell.upkeep;
