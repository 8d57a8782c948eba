package dev.mockbell.desktop.model;

/** The view models of one window, made together. */
public record Models(
        Desk desk,
        CallModel call,
        CheckModel check,
        MocksModel mocks,
        TrafficModel traffic,
        ExchangeUses uses,
        TapsModel taps,
        HarModel har,
        LoadModel load,
        WorkersModel workers,
        ChangesModel changes,
        WrittenModel written) {
    public static Models of(Desk desk) {
        MocksModel mocks = new MocksModel(desk);
        CallModel call = new CallModel(desk, mocks);
        CheckModel check = new CheckModel(desk);
        WorkersModel workers = new WorkersModel(desk);
        return new Models(
                desk,
                call,
                check,
                mocks,
                new TrafficModel(desk),
                new ExchangeUses(desk, call, check),
                new TapsModel(desk),
                new HarModel(desk),
                new LoadModel(desk, workers),
                workers,
                new ChangesModel(desk),
                new WrittenModel(desk));
    }
}
