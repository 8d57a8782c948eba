/**
 * The typed outline of what a contract allows. In: schema documents; out: element and type declarations as plain values, and a validator.
 */
package dev.mockbell.schema;
