package dev.mockbell.desktop.model;

/** The six places of work, in the order people work. */
public enum Station {
    CONTRACT("Contract"),
    CALL("Call"),
    CHECK("Check"),
    MOCK("Mock"),
    TRAFFIC("Traffic"),
    LOAD("Load");

    private final String title;

    Station(String title) {
        this.title = title;
    }

    public String title() {
        return title;
    }

    /** Alt and this digit go there. */
    public int digit() {
        return ordinal() + 1;
    }
}
