/**
 * The regular expressions of XML Schema (part 2 appendix F): a text goes in; a matcher that takes linear time, strings
 * that match, and a judgement on how dear the expression is to backtracking matchers come out.
 */
package dev.mockbell.pattern;
