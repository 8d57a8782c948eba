package dev.mockbell.desktop.model;

import dev.mockbell.load.LoadPlan;
import dev.mockbell.suite.Case;
import dev.mockbell.suite.Suite;

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
        WrittenModel written,
        GuideModel guide) {
    public static Models of(Desk desk) {
        MocksModel mocks = new MocksModel(desk);
        CallModel call = new CallModel(desk, mocks);
        CheckModel check = new CheckModel(desk);
        WorkersModel workers = new WorkersModel(desk);
        LoadModel load = new LoadModel(desk, workers);
        desk.steps().onShow(part -> {
            if (part.value() instanceof Case kept) {
                call.goTo(kept);
            } else if (part.value() instanceof Suite suite) {
                check.open(suite);
            } else if (part.value() instanceof LoadPlan plan) {
                load.open(plan);
            }
        });
        return new Models(
                desk,
                call,
                check,
                mocks,
                new TrafficModel(desk),
                new ExchangeUses(desk, call, check),
                new TapsModel(desk),
                new HarModel(desk),
                load,
                workers,
                new ChangesModel(desk),
                new WrittenModel(desk),
                new GuideModel(desk));
    }
}
