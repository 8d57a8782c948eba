/**
 * XPath 3.1, alone and in braces within text. In: text and a scope of variables; out: values.
 */
package dev.mockbell.expression;
