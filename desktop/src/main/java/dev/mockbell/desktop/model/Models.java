package dev.mockbell.desktop.model;

/** The view models of one window, made together. */
public record Models(
        Desk desk,
        CallModel call,
        CheckModel check,
        MocksModel mocks,
        TrafficModel traffic,
        TapsModel taps,
        HarModel har,
        LoadModel load) {
    public static Models of(Desk desk) {
        MocksModel mocks = new MocksModel(desk);
        return new Models(
                desk,
                new CallModel(desk, mocks),
                new CheckModel(desk),
                mocks,
                new TrafficModel(desk),
                new TapsModel(desk),
                new HarModel(desk),
                new LoadModel(desk));
    }
}
