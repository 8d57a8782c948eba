/**
 * Load: a plan becomes arrivals on a schedule, measured from the intended start. In: a plan; out: figures, live and final.
 */
package dev.mockbell.load;
