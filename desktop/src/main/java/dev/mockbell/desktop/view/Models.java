package dev.mockbell.desktop.view;

import dev.mockbell.desktop.model.CallModel;
import dev.mockbell.desktop.model.CheckModel;
import dev.mockbell.desktop.model.Desk;
import dev.mockbell.desktop.model.LoadModel;
import dev.mockbell.desktop.model.MocksModel;
import dev.mockbell.desktop.model.TrafficModel;

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
