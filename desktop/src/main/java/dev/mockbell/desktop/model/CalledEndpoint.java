package dev.mockbell.desktop.model;

import dev.mockbell.contract.Contract.BoundOperation;
import dev.mockbell.contract.Port;
import dev.mockbell.contract.Transport;
import dev.mockbell.exchange.Exchange.Way;
import dev.mockbell.ledger.LedgerFilter;
import dev.mockbell.ledger.Listing;
import dev.mockbell.mock.MockHost;
import dev.mockbell.problem.Problem;
import dev.mockbell.request.RequestRecipe;
import dev.mockbell.suite.Case;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Consumer;

/** Where the current case goes: where it says itself, else the environment, else the contract. */
public final class CalledEndpoint {
    private static final int LOOKED_AT = 300;
    private static final int MOST_RECENT = 6;

    private final Desk desk;
    private final CallModel call;
    private final MocksModel mocks;

    CalledEndpoint(Desk desk, CallModel call, MocksModel mocks) {
        this.desk = desk;
        this.call = call;
        this.mocks = mocks;
    }

    /** Whom an address that is typed is for. */
    public enum For {
        CASE("this case"),
        ENVIRONMENT("this environment");

        private final String words;

        For(String words) {
            this.words = words;
        }

        /** For people. */
        public String words() {
            return words;
        }
    }

    /**
     * An address to choose.
     *
     * @param from where it comes from, in words
     */
    public record Choice(String address, String from) {}

    private String own() {
        Case now = call.currentProperty().get();
        return now == null ? "" : now.delivery().endpoint();
    }

    /** Whom the address is for that counts now. */
    public For counts() {
        return own().isEmpty() ? For.ENVIRONMENT : For.CASE;
    }

    /** The address; empty when there is none. */
    public String address() {
        return own().isEmpty()
                ? call.bound()
                        .map(b -> desk.endpoint(desk.placeProperty().get().contract(), b.port()))
                        .orElse("")
                : own();
    }

    private Optional<String> ofEnvironment(Port port) {
        return desk.project()
                .current()
                .endpoint(desk.placeProperty().get().contract().name(), port.name());
    }

    private String environment() {
        return desk.project().current().name();
    }

    /** Where the address comes from, in words. */
    public String from() {
        Optional<BoundOperation> bound = call.bound();
        if (bound.isEmpty()) {
            return "";
        }
        Transport transport = bound.get().port().binding().transport();
        if (!transport.canBeSent()) {
            return "spoken over " + transport.name() + ", sending is by HTTP and JMS";
        }
        if (address().isEmpty()) {
            return "the contract has no address";
        }
        String mock =
                mock().filter(m -> m.equals(address())).map(m -> ", the mock").orElse("");
        if (counts() == For.CASE) {
            return "of this case" + mock;
        }
        return (ofEnvironment(bound.get().port()).isPresent()
                        ? "from environment " + environment()
                        : "from the contract")
                + mock;
    }

    /** Where the running mock of the contract answers for the port; empty when none runs. */
    public Optional<String> mock() {
        OperationPlace place = desk.placeProperty().get();
        return call.bound()
                .flatMap(b -> mocks.host(place.contract().name())
                        .map(MockHost::addresses)
                        .map(all -> all.get(b.port().name())));
    }

    /**
     * Starts the mock of the contract, if it does not run yet, and has the case call it.
     *
     * @param then runs when it does
     */
    public void callMock(Runnable then) {
        OperationPlace place = desk.placeProperty().get();
        if (place != null) {
            mocks.running(
                    place.contract(),
                    host -> mock().ifPresent(address -> {
                        keep(address, For.CASE);
                        then.run();
                    }));
        }
    }

    /** The addresses there are: of environment, contract and mock at once, and those called before when they are found. */
    public void choices(Consumer<List<Choice>> then) {
        Optional<BoundOperation> bound = call.bound();
        if (bound.isEmpty()) {
            return;
        }
        Port port = bound.get().port();
        List<Choice> found = new ArrayList<>();
        ofEnvironment(port).ifPresent(a -> found.add(new Choice(a, "environment " + environment())));
        port.address().ifPresent(a -> found.add(new Choice(a, "the contract")));
        mock().ifPresent(a -> found.add(new Choice(a, "the mock that runs here")));
        String contract = desk.placeProperty().get().contract().name();
        desk.tasks()
                .run(
                        () -> desk.ledger().list(LedgerFilter.ALL, LOOKED_AT).stream()
                                .filter(l ->
                                        l.way() == Way.CALLED && l.contract().equals(contract))
                                .map(Listing::endpoint)
                                .distinct()
                                .toList(),
                        called -> {
                            called.stream()
                                    .filter(a -> found.stream()
                                            .noneMatch(c -> c.address().equals(a)))
                                    // one with something masked is no address any more
                                    .filter(a -> !a.contains("•"))
                                    .limit(MOST_RECENT)
                                    .toList()
                                    .forEach(a -> found.add(new Choice(a, "called before")));
                            then.accept(found);
                        },
                        problem -> then.accept(found));
    }

    /**
     * Sends to another address from now on; an empty one goes by what counts without it.
     *
     * @return whether it is one; otherwise the user is told why not
     */
    public boolean keep(String address, For whom) {
        OperationPlace place = desk.placeProperty().get();
        if (place == null || call.bound().isEmpty()) {
            return false;
        }
        Port port = call.bound().get().port();
        if (whom == For.ENVIRONMENT) {
            boolean same = address.equals(port.address().orElse(""))
                    && ofEnvironment(port).isEmpty();
            boolean kept = same || desk.contracts().endpoint(place.contract(), port, address);
            if (kept) {
                own("");
            }
            return kept;
        }
        try {
            if (!address.isBlank()) {
                RequestRecipe.checkAddress(address);
            }
        } catch (Problem problem) {
            desk.tell(problem);
            return false;
        }
        own(address.strip());
        return true;
    }

    private void own(String address) {
        if (!own().equals(address)) {
            call.settle();
            Case now = call.currentProperty().get();
            call.keep(now.withDelivery(now.delivery().to(address)));
        }
    }
}
