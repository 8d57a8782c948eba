package dev.mockbell.desktop.model;

import dev.mockbell.contract.Port;
import dev.mockbell.contract.Transport;

/** Where the current case goes. */
public final class CalledEndpoint {
    private final Desk desk;
    private final CallModel call;

    CalledEndpoint(Desk desk, CallModel call) {
        this.desk = desk;
        this.call = call;
    }

    /** The address; empty when there is none. */
    public String address() {
        return call.bound()
                .map(b -> desk.endpoint(desk.placeProperty().get().contract(), b.port()))
                .orElse("");
    }

    /** Where the address comes from, in words. */
    public String from() {
        OperationPlace place = desk.placeProperty().get();
        if (place == null || call.bound().isEmpty()) {
            return "";
        }
        String port = call.bound().get().port().name();
        boolean set =
                desk.project().current().endpoint(place.contract().name(), port).isPresent();
        Transport transport = call.bound().get().port().binding().transport();
        if (!transport.byHttp()) {
            return "spoken over " + transport.name() + ", sending is by HTTP alone";
        }
        if (address().isEmpty()) {
            return "the contract has no address";
        }
        return set ? "from environment " + desk.project().current().name() : "from the contract";
    }

    /**
     * Sends the port's requests to another address, in the environment in use, from now on; an empty one goes by the contract.
     *
     * @return whether it is one; otherwise the user is told why not
     */
    public boolean keep(String address) {
        OperationPlace place = desk.placeProperty().get();
        if (place == null || call.bound().isEmpty()) {
            return false;
        }
        Port port = call.bound().get().port();
        boolean same = address.equals(port.address().orElse(""))
                && desk.project()
                        .current()
                        .endpoint(place.contract().name(), port.name())
                        .isEmpty();
        return same || desk.contracts().endpoint(place.contract(), port, address);
    }
}
