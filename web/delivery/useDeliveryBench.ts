import { ref, type Ref } from 'vue';
import { useNewDelivery } from './useNewDelivery.ts';

/** A delivery is changed or made without leaving the batch. */
export function useDeliveryBench(deliveryIds: Ref<readonly number[]>) {
  /** The one that is being changed. */
  const shapedId = ref<number | null>(null);
  const newDelivery = useNewDelivery();

  async function addDelivery(): Promise<void> {
    const added = await newDelivery();
    if (!added) return;
    chooseToo(added.id);
  }

  /** One that was just made goes out as well, and is shown. */
  function chooseToo(id: number): void {
    deliveryIds.value = [...deliveryIds.value, id];
    shapedId.value = id;
  }

  function shape(id: number): void {
    shapedId.value = shapedId.value === id ? null : id;
  }

  return { shapedId, shape, chooseToo, addDelivery };
}
