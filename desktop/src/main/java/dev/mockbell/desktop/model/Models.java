package dev.mockbell.desktop.model;

/** The view models of one window, made together. */
public record Models(
        Desk desk, CallModel call, CheckModel check, MocksModel mocks, TrafficModel traffic, LoadModel load) {
    public static Models of(Desk desk) {
        return new Models(
                desk,
                new CallModel(desk),
                new CheckModel(desk),
                new MocksModel(desk),
                new TrafficModel(desk),
                new LoadModel(desk));
    }
}
