/**
 * Long work made civil: a stop signal that comes in, progress that goes out.
 */
package dev.mockbell.task;
