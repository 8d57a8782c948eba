package dev.mockbell.expression;

import java.util.List;

/**
 * A function beyond those of XPath, for people.
 *
 * @param signature how it is written
 * @param text what it gives
 * @param example an expression that uses it, in braces
 */
public record FunctionDoc(String signature, String text, String example) {
    /** The functions of this program, in the order of a help page. */
    public static final List<FunctionDoc> ALL = List.of(
            new FunctionDoc("bell:uuid()", "A random UUID.", "{bell:uuid()}"),
            new FunctionDoc(
                    "bell:random(type)",
                    "A random value of a type of the contract or of XML Schema, another one each time.",
                    "{bell:random('xs:date')}"),
            new FunctionDoc(
                    "bell:between(low, high)", "A random whole number, both ends included.", "{bell:between(1, 14)}"),
            new FunctionDoc("bell:one-of(values)", "One of several values.", "{bell:one-of(('NONE', 'HALF', 'FULL'))}"),
            new FunctionDoc(
                    "bell:like(pattern)",
                    "Random text that matches a regular expression of XML Schema.",
                    "{bell:like('NF-[0-9][0-9]')}"),
            new FunctionDoc(
                    "bell:counter(name)",
                    "1, 2, 3 and so on: one more each time, counted by name until the program ends.",
                    "{bell:counter('booking')}"),
            new FunctionDoc("bell:base64(text)", "The text's UTF-8 bytes in base64.", "{bell:base64('Skarn')}"),
            new FunctionDoc(
                    "bell:from-base64(text)",
                    "The text whose UTF-8 bytes these are.",
                    "{bell:from-base64('U2thcm4=')}"),
            new FunctionDoc(
                    "bell:hash(algorithm, text)",
                    "The hash of the text's UTF-8 bytes in hexadecimal digits: SHA-256, SHA-512, SHA-1 or MD5.",
                    "{bell:hash('SHA-256', $code)}"),
            new FunctionDoc(
                    "bell:look-up(table, column, value)",
                    "In the answers of mocks: the row of a CSV file that has the value in the column, as a map.",
                    "{bell:look-up('huts.csv', 'hutId', 'NF-07')?name}"),
            new FunctionDoc(
                    "bell:rows(table)",
                    "In the answers of mocks: all rows of a CSV file, each as a map.",
                    "{string-join(bell:rows('huts.csv')?name, ', ')}"));
}
