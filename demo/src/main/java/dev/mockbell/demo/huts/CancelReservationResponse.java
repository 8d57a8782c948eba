package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlElement;
import jakarta.xml.bind.annotation.XmlRootElement;
import jakarta.xml.bind.annotation.XmlType;
import java.math.BigDecimal;

/** What is refunded. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlRootElement(name = "CancelReservationResponse")
@XmlType(
        name = "",
        propOrder = {"refund", "currency"})
public final class CancelReservationResponse {
    @XmlElement(required = true)
    public BigDecimal refund;

    @XmlElement(required = true)
    public String currency;
}
