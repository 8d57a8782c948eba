package dev.mockbell.profile;

import java.util.function.BiConsumer;

/**
 * One requirement of the profile.
 *
 * @param number its number in the profile
 * @param must whether it says MUST; SHOULD otherwise
 * @param advice what to do about a breach
 * @param check finds the breaches and tells them
 */
record Rule(String number, boolean must, String advice, BiConsumer<Description, Report> check) {
    static Rule must(String number, String advice, BiConsumer<Description, Report> check) {
        return new Rule(number, true, advice, check);
    }

    static Rule should(String number, String advice, BiConsumer<Description, Report> check) {
        return new Rule(number, false, advice, check);
    }
}
