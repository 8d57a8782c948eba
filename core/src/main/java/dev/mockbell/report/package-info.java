/**
 * Results for others. In: a run or a load run; out: JUnit XML, one HTML file, CSV.
 */
package dev.mockbell.report;
