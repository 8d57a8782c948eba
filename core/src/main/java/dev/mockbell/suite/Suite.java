package dev.mockbell.suite;

import java.util.List;

/** Steps in their order. */
public record Suite(String id, String title, List<Step> steps) {
    public Suite withSteps(List<Step> list) {
        return new Suite(id, title, List.copyOf(list));
    }
}
